import { describe, expect, it } from "vitest";

import type { Place, Places, Table } from "../api/types";
import { rounded, snap } from "./snap";

const r = 0.028575;
const table = {
  length: 2.54,
  width: 1.27,
  radius: r,
  cue_radius: r,
  pockets: [
    {
      name: "foot-left",
      tips: [
        [2.459, 1.27],
        [2.54, 1.189],
      ],
      mouth: [2.4996, 1.2296],
      axis: [0.7071, 0.7071],
      drop: [2.5288, 1.2588],
      width: 0.1143,
    },
  ],
} as unknown as Table;

const apart = (one: Place, other: Place) => Math.hypot(one[0] - other[0], one[1] - other[1]);

describe("a ball that is put down", () => {
  it("stays where there is room", () => {
    expect(snap(table, { "1": [1, 0.5] }, "cue", [0.5, 0.5])).toEqual({ place: [0.5, 0.5], said: null });
  });

  it("touches the rail instead of standing in it, and says so", () => {
    const { place, said } = snap(table, {}, "cue", [1, -0.1]);
    expect(place).toEqual([1, r]);
    expect(said).toBe("Against the rail.");
  });

  it("touches a ball instead of overlapping it, on the side it came from", () => {
    const { place, said } = snap(table, { "3": [1, 0.5] }, "cue", [0.98, 0.5]);
    expect(apart(place, [1, 0.5])).toBeGreaterThanOrEqual(2 * r);
    expect(apart(place, [1, 0.5])).toBeLessThan(2 * r + 1e-4);
    expect(place[0]).toBeLessThan(1);
    expect(said).toBe("Touching the 3.");
  });

  it("finds a place between a ball and the rail", () => {
    const balls: Places = { "3": [1, r] };
    const { place } = snap(table, balls, "cue", [1.01, 0]);
    expect(place[1]).toBeGreaterThanOrEqual(r);
    expect(apart(place, [1, r])).toBeGreaterThanOrEqual(2 * r - 1e-6);
  });

  it("may hang in a pocket's jaws", () => {
    expect(snap(table, {}, "3", [2.5, 1.23]).said).toBeNull();
  });

  it("stays where it was when there is no room at all", () => {
    const ring = Array.from({ length: 14 }, (_, n): [string, Place] => [
      String(n + 1),
      [1 + 0.04 * Math.cos(n), 0.6 + 0.04 * Math.sin(n)],
    ]);
    const { place, said } = snap(table, { ...Object.fromEntries(ring), cue: [0.2, 0.2] }, "cue", [1, 0.6]);
    if (said === "There is no room for a ball there.") expect(place).toEqual([0.2, 0.2]);
    else for (const [, at] of ring) expect(apart(place, at)).toBeGreaterThanOrEqual(2 * r - 1e-6);
  });
});

it("writes places to a hundredth of a millimetre", () => {
  expect(rounded([0.1234567, 1])).toEqual([0.12346, 1]);
});
