import { describe, expect, it } from "vitest";

import type { PositionMap } from "../../../api/types";
import { gradeAt, valueAt } from "./map";
import { aimAt } from "./useChoicesOf";

const map: PositionMap = {
  ball: "9",
  columns: 3,
  rows: 2,
  x: [0, 2],
  y: [0, 1],
  run: [0, 0.2, 0.4, 0.6, 0.8, 1],
  win: [0, 0, 0, 0, 0, 0],
  best: 1,
  zones: [],
};

describe("a position map", () => {
  it("gives the values of its own places", () => {
    expect(valueAt(map, "run", [0, 0])).toBe(0);
    expect(valueAt(map, "run", [1, 1])).toBeCloseTo(0.6);
    expect(valueAt(map, "run", [2, 1])).toBeCloseTo(1);
  });
  it("is bilinear between them and holds beyond its edges", () => {
    expect(valueAt(map, "run", [0.5, 0.5])).toBeCloseTo(0.3);
    expect(valueAt(map, "run", [9, 9])).toBeCloseTo(1);
    expect(valueAt(map, "run", [-1, -1])).toBe(0);
  });
  it("grades a place by its share of the best", () => {
    expect(gradeAt(map, [2, 1])).toBe("ideal");
    expect(gradeAt(map, [1, 1])).toBe("acceptable");
    expect(gradeAt(map, [1, 0])).toBe("recoverable");
    expect(gradeAt(map, [0, 0])).toBe("forbidden");
  });
});

it("aims from the cue ball to the point", () => {
  expect(aimAt([1, 1], [1, 2])).toBeCloseTo(Math.PI / 2);
});
