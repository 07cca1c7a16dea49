import { expect, it } from "vitest";

import type { Place } from "../../../api/types";
import { drawn, handlesOf, middleOf, movedZones, rather, withZones, zoneAt } from "./zones";

const APEX: Place = [2, 0.5];

it("a window along a line is as wide to both sides and begins at its better end", () => {
  const [zone] = drawn("window", [[1, 0.5], [1.4, 0.5]], undefined, 0.1) ?? []; // prettier-ignore
  expect(zone?.outline).toEqual([[1, 0.56], [1.4, 0.56], [1.4, 0.44], [1, 0.44]]); // prettier-ignore
});

it("a wedge lies between two directions from the next ball, and needs one", () => {
  const [zone] = drawn("wedge", [[1, 0.5], [1.2, 1]], APEX, 0.1) ?? []; // prettier-ignore
  const away = zone?.outline?.map(([x = 0, y = 0]) => Math.hypot(x - APEX[0], y - APEX[1])) ?? [];
  expect(Math.max(...away)).toBeCloseTo(1, 4);
  expect(Math.min(...away)).toBeCloseTo(0.1, 4);
  expect(drawn("wedge", [[1, 0.5], [1.2, 1]], undefined, 0.1)).toBeNull(); // prettier-ignore
});

it("an outline needs three corners; a dead area is forbidden", () => {
  const corners: Place[] = [[1, 0.2], [1.2, 0.2], [1.1, 0.4]]; // prettier-ignore
  expect(drawn("outline", corners.slice(0, 2), undefined, 0.1)).toBeNull();
  expect(drawn("dead", corners, undefined, 0.1)?.[0]?.grade).toBe("forbidden");
});

it("zones of several next balls stand side by side; the same one's is drawn anew, dead areas stay", () => {
  const one = withZones({}, "cue", zoneAt([1, 0.5], 0.1), null);
  const two = withZones(one, "cue", [{ grade: "acceptable", outline: [[0, 0], [1, 0], [1, 1]] }], "7"); // prettier-ignore
  const dead = withZones(two, "cue", [{ grade: "forbidden", outline: [[0, 0], [1, 0], [1, 1]] }], null); // prettier-ignore
  expect(dead.targets?.["cue"]?.zones).toHaveLength(4);
  const again = withZones(dead, "cue", zoneAt([1.5, 0.5], 0.1), null);
  expect(again.targets?.["cue"]?.zones?.map((zone) => zone.grade).sort()).toEqual([
    "acceptable",
    "acceptable",
    "forbidden",
    "ideal",
  ]);
});

it("a zone is dragged by its middle, and has a better end", () => {
  const document = withZones({}, "cue", zoneAt([1, 0.5], 0.1), null);
  expect(handlesOf(document)).toEqual([{ id: "zone:cue", place: [1, 0.5] }]);
  const moved = movedZones(document, "cue", [1.3, 0.6]);
  expect(moved.targets?.["cue"]?.zones?.map(middleOf)).toEqual([[1.3, 0.6], [1.3, 0.6]]); // prettier-ignore
  const ends = [1, 2, 3].map((times) => {
    let next = document;
    for (let n = 0; n < times; n++) next = rather(next, "cue");
    return next.targets?.["cue"]?.zones?.at(-1)?.rather;
  });
  expect(ends).toEqual(["long", "short", null]);
});
