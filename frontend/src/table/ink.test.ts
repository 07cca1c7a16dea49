import { describe, expect, it } from "vitest";

import type { Place, Table } from "../api/types";
import { inkShapes, snapped } from "./ink";

const mouth = (name: string, at: Place) => ({ name, mouth: at }) as Table["pockets"][number];
const table = {
  length: 2.54,
  width: 1.27,
  radius: 0.028575,
  pockets: [mouth("head-left", [0.03, 1.24]), mouth("side-left", [1.27, 1.27])],
} as Table;

describe("snapping", () => {
  const balls: Record<string, Place> = { cue: [0.5, 0.5], "3": [1.25, 1.2] };
  it("goes to a ball's centre, a pocket's mouth, or where a ball would touch the rail", () => {
    expect(snapped(table, balls, [0.53, 0.48])).toEqual({ place: [0.5, 0.5], to: "the cue ball" });
    expect(snapped(table, balls, [0.06, 1.2])).toEqual({ place: [0.03, 1.24], to: "head left" });
    expect(snapped(table, balls, [2.53, 0.6])).toEqual({ place: [2.54 - 0.028575, 0.6], to: "the rail" });
  });
  it("prefers what is nearest, and leaves a free point where it is", () => {
    expect(snapped(table, balls, [1.252, 1.205]).to).toBe("the 3");
    expect(snapped(table, balls, [1.8, 0.6])).toEqual({ place: [1.8, 0.6], to: null });
  });
});

describe("shapes", () => {
  it("leaves out what is no drawing yet and closes circles and areas", () => {
    const shapes = inkShapes([
      { kind: "line", points: [[0, 0]] },
      { kind: "circle", points: [[1, 0.5], [1, 0.7]], ink: "red" }, // prettier-ignore
      { kind: "area", points: [[0, 0], [1, 0], [1, 1]], ink: "blue" }, // prettier-ignore
    ]);
    expect(shapes.map(({ line, closed }) => [line, closed])).toEqual([
      ["ink-red", true],
      ["ink-blue", true],
    ]);
  });
  it("puts a head on an arrow that is never longer than a third of it", () => {
    const [arrow] = inkShapes([{ kind: "arrow", points: [[0, 0], [0.09, 0]] }], ["9 cm"]); // prettier-ignore
    const barb = arrow?.points[2] ?? [0, 0];
    expect(Math.hypot(barb[0] - 0.09, barb[1])).toBeCloseTo(0.03);
    expect(arrow?.label).toBe("9 cm");
  });
});
