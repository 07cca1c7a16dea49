// @vitest-environment jsdom
import { expect, it } from "vitest";

import { lengthIn } from "./settings";
import { placeWords, rateWords, time } from "./words";

it("a rate is never written without its interval and its sample", () => {
  expect(rateWords({ p: 0.8, low: 0.548, high: 0.93, n: 15 })).toBe("80 % (55 to 93), n 15");
  expect(rateWords({ p: null, low: 0, high: 1, n: 0 })).toBe("no tries");
});

it("times read as minutes and seconds", () => {
  expect(time(0)).toBe("0:00.00");
  expect(time(65.4)).toBe("1:05.40");
});

it("lengths are written in the unit that was chosen", () => {
  const table = { radius: 0.028575, length: 2.54 };
  expect(lengthIn(0.254, "cm", table)).toBe("25.4 cm");
  expect(lengthIn(0.254, "in", table)).toBe("10.0 in");
  expect(lengthIn(0.05715, "balls", table)).toBe("1.0 balls");
  expect(lengthIn(0.3175, "diamonds", table)).toBe("1.00 dia.");
});

it("a place in a file is told as somebody would find it", () => {
  expect(placeWords("racks[2].shots[3].potted[0].ball")).toBe("rack 3, shot 4, ball 1 that fell, ball");
  expect(placeWords("racks[0].shots[11].layout_before.balls.9")).toBe(
    "rack 1, shot 12, places before, the 9",
  );
  expect(placeWords("players.B.name")).toBe("player B's name");
  expect(placeWords("file")).toBe("");
});
