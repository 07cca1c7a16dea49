import { describe, expect, it } from "vitest";

import type { Leg, Simulated } from "../../api/types";
import { cueWay, placeIn, placesAt } from "./course";
import { speedWords } from "./speeds";
import { tipWords } from "./TipFace";

const leg = (t: number, phase: string, more: Partial<Leg>): Leg => ({
  t,
  phase,
  place: [0, 0, 0],
  velocity: [0, 0, 0],
  acceleration: [0, 0],
  ...more,
});

const shot = {
  legs: {
    cue: [
      leg(0, "slide", { velocity: [2, 0, 0], acceleration: [-1, 0] }),
      leg(2, "rest", { place: [2, 0, 0] }),
    ],
    "1": [leg(0, "rest", { place: [1, 1, 0] }), leg(1, "potted", { place: [9, 9, 0] })],
  },
  shot: { duration: 2 },
} as unknown as Simulated;

describe("the course of a shot", () => {
  it("runs as v t + a t² / 2", () => {
    expect(placeIn(shot.legs["cue"]?.[0], 1)).toEqual([1.5, 0]);
  });

  it("takes fallen balls off and leaves the others", () => {
    const balls = { cue: [0, 0], "1": [1, 1], "2": [3, 3] } as Record<string, [number, number]>;
    expect(placesAt(balls, shot, 0.5)).toEqual({ cue: [0.875, 0], "1": [1, 1], "2": [3, 3] });
    expect(placesAt(balls, shot, 1.5)).not.toHaveProperty("1");
    expect(placesAt(balls, shot, 99)["cue"]).toEqual([2, 0]);
  });

  it("is told in words", () => {
    const event = (kind: string, more: object) => ({
      t: 0,
      kind,
      balls: ["cue"],
      place: [0, 0],
      speeds: [],
      ...more,
    });
    const way = cueWay([
      event("stroke", {}),
      event("contact", { balls: ["cue", "3"] }),
      event("rail", { rail: "left" }),
      event("rail", { rail: "left" }),
      event("pocket", { pocket: "side-left" }),
    ] as never);
    expect(way).toEqual(["ball 3", "left rail", "falls in side left"]);
  });
});

describe("words", () => {
  it("name speeds and tip places", () => {
    expect(speedWords(1)).toBe("soft");
    expect(speedWords(9)).toBe("break speed");
    expect(tipWords(0, 0)).toBe("centre");
    expect(tipWords(-0.1, 0.2)).toBe("0.20 above, 0.10 left");
  });
});
