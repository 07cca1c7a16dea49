import { describe, expect, it } from "vitest";

import { ballsOfKey, choiceWords, disciplineOf, sortOf } from "./discipline";

const REDS = ["red-3", "red-9"];

describe("a digit names a ball", () => {
  it.each([
    ["nine-ball", 7, false, ["7", "9"], ["7"]],
    ["straight-pool", 3, true, ["3", "13"], ["13"]],
    ["ten-ball", 0, false, ["1", "10"], ["10"]],
    ["snooker", 1, false, [...REDS, "yellow"], REDS],
    ["snooker", 7, false, [...REDS, "black"], ["black"]],
    ["blackball", 2, false, ["red-1", "yellow-4"], ["yellow-4"]],
    ["blackball", 3, false, ["black"], ["black"]],
    ["snooker", 5, false, REDS, []],
  ])("%s: %i with shift %s", (discipline, digit, shift, balls, named) => {
    expect(ballsOfKey(discipline, digit, shift, balls)).toEqual(named);
  });
});

it("each game has its own words", () => {
  expect(disciplineOf("snooker").pockets["head-left"]).toBe("baulk left");
  expect(disciplineOf("snooker").rack).toBe("frame");
  expect(disciplineOf("straight-pool").best).toBe("high run");
  expect(sortOf("red-12")).toBe("red");
  expect(sortOf("12")).toBe("12");
});

it("a choice is told as the player would say it", () => {
  expect(choiceWords("re-break", "eight-ball", ["accept", "re-rack", "re-break"], "Ann")).toBe(
    "has Ann break again",
  );
  expect(choiceWords("re-break", "eight-ball", ["accept", "re-break"], "Ann")).toBe("breaks again");
  expect(choiceWords("free-ball:pink", "snooker", [], "Ann")).toBe("free ball: the pink");
});
