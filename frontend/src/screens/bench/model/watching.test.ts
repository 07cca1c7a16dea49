import { describe, expect, it } from "vitest";

import type { Game } from "../../../api/types";
import { ends, goesOn, legsOf, paceAt } from "./watching";

const shot = (id: string, time: object | null, recording = 0) => ({ id, document: { time, recording } });
const game = {
  racks: [
    { shots: [shot("a", { start: 10, contact: 40, still: 46 }), shot("b", null)] },
    { shots: [shot("c", { start: 80 }), shot("d", { start: 5, contact: 6 }, 1)] },
  ],
} as unknown as Game;

describe("watching", () => {
  it("plays the shots of this recording that have a moment", () => {
    expect(legsOf(game, 0).map((leg) => leg.shot)).toEqual(["a", "c"]);
    expect(legsOf(game, 1).map((leg) => leg.shot)).toEqual(["d"]);
  });
  it("skips the waiting before the contact and stops soon after the standstill", () => {
    const [a, c] = legsOf(game, 0);
    if (!a || !c) throw new Error("two legs");
    expect(goesOn(a)).toBe(38);
    expect(ends(a)).toBeCloseTo(46.7);
    expect(goesOn(c)).toBe(80);
    expect(ends(c)).toBeGreaterThan(84);
  });
  it("never goes back before the still picture", () => {
    expect(goesOn({ shot: "x", start: 10, contact: 10.5, still: 14 })).toBe(10);
  });
  it("slows round the contact only", () => {
    const [a] = legsOf(game, 0);
    if (!a) throw new Error("a leg");
    expect([38, 39.9, 40.3, 41, 45].map((at) => paceAt(a, at))).toEqual([1, 0.25, 0.25, 1, 1]);
  });
});
