import { expect, it } from "vitest";

import { frameAt, seekTargets } from "./usePlayer";

const times = Float64Array.from([1.5, 1.533, 1.9, 1.94]);

it("finds the frame that is shown at a media time, rounded stamps included", () => {
  expect(frameAt(times, 1.5)).toBe(0);
  expect(frameAt(times, 1.5325)).toBe(1);
  expect(frameAt(times, 1.7)).toBe(1);
  expect(frameAt(times, 99)).toBe(3);
  expect(frameAt(times, 0)).toBe(0);
});

it("seeks inside the frame's own time, first at its middle", () => {
  const [middle, near, late] = seekTargets(times, 1);
  expect(middle).toBeCloseTo(1.7165);
  for (const target of [middle, near, late]) {
    expect(target).toBeGreaterThan(1.533);
    expect(target).toBeLessThan(1.9);
  }
  expect(seekTargets(times, 3)[0]).toBeGreaterThan(1.94);
});
