import { describe, expect, it } from "vitest";

import {
  axisOf,
  middleOf,
  numberOf,
  questionOf,
  sampleWords,
  scaleOf,
  valueWords,
  type Measure,
} from "./asked";

const measure = (more: Partial<Measure>): Measure => ({
  name: "pots", words: "pots made", what: "made", of: "tries", kind: "rate", unit: "", better: true, fair: false,
  expects: "", ...more,
}); // prettier-ignore
const rate = { p: 0.625, low: 0.55, high: 0.69, n: 160 };
const mean = { mean: -0.0312, low: -0.06, high: -0.001, n: 24 };
const POTS = measure({});
const SHARES = measure({ kind: "share" });
const ALONG = measure({ name: "along", kind: "mean", unit: "m" });
const DECISION = measure({ name: "decision", kind: "mean", unit: "points" });
const TIME = measure({ name: "time", kind: "mean", unit: "s" });

describe("values in words", () => {
  it("gives rates and shares in whole per cent with their interval", () => {
    expect(valueWords(POTS, rate)).toBe("63 % (55 to 69)");
    expect(valueWords(SHARES, rate)).toBe("63 % (55 to 69)");
  });

  it("gives means in the unit of the trade, with a real minus", () => {
    expect(valueWords(ALONG, mean)).toBe("−3.1 cm (−6.0 to −0.1)");
    expect(valueWords(DECISION, mean)).toBe("−3.1 (−6.0 to −0.1)");
    expect(valueWords(TIME, { mean: 21.44, low: 18, high: 25, n: 9 })).toBe("21.4 s (18.0 to 25.0)");
  });

  it("says nothing of what nobody tried, and no interval of a single value", () => {
    expect(valueWords(POTS, { p: null, low: 0, high: 1, n: 0 })).toBe("–");
    expect(valueWords(TIME, { mean: 30, low: null, high: null, n: 1 })).toBe("30.0 s");
  });

  it("never leaves a number without its sample; a share says how many of all", () => {
    expect(sampleWords(POTS, rate)).toBe("n 160");
    expect(sampleWords(SHARES, rate)).toBe("100 of 160");
  });

  it("writes bare numbers for squares and bars", () => {
    expect(numberOf(POTS, middleOf(rate))).toBe("63");
    expect(numberOf(ALONG, middleOf(mean))).toBe("−3");
    expect(numberOf(TIME, null)).toBe("–");
  });
});

describe("the axis", () => {
  it("names what it counts", () => {
    expect([POTS, SHARES, ALONG, DECISION, TIME].map(axisOf)).toEqual([
      "per cent made",
      "per cent of the tries",
      "centimetres, short – long",
      "points of win chance a stroke",
      "seconds",
    ]);
    expect([POTS, SHARES, ALONG, DECISION, TIME].map(scaleOf)).toEqual([100, 100, 100, 100, 1]);
  });
});

describe("the question of an address", () => {
  it("asks for pots by cut in matches when nothing is said", () => {
    expect(questionOf(new URLSearchParams())).toEqual({ measure: "pots", by: "cut", session: "match" });
  });

  it("keeps what is said, without the open row and without somebody against himself", () => {
    const asked = questionOf(new URLSearchParams("measure=zone&player=3&versus=3&at=follow&tip=draw"));
    expect(asked).toEqual({ measure: "zone", by: "cut", session: "match", player: "3", tip: "draw" });
  });
});
