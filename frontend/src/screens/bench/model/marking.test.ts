import { describe, expect, it } from "vitest";

import type { Marks } from "../../../api/types";
import { firstEdge, turned, viewAt, withEdge, withMarks, withoutEdge, withView } from "./marking";

const marks: Marks = {
  "corner:head-left": [1, 2],
  "pocket:side-right": [3, 4],
  "sight:left-2": [5, 6],
  "sight:foot-1": [7, 8],
};

describe("turning head and foot", () => {
  it("gives every point the name it has from the other end", () => {
    expect(turned(marks)).toEqual({
      "corner:foot-right": [1, 2],
      "pocket:side-left": [3, 4],
      "sight:right-6": [5, 6],
      "sight:head-3": [7, 8],
    });
  });

  it("done twice changes nothing", () => {
    expect(turned(turned(marks))).toEqual(marks);
  });
});

describe("the edge of the real picture", () => {
  it("is two more marks while the table is marked", () => {
    const both = withEdge(marks, [10, 20, 100, 50]);
    expect(both?.["frame:bottom-right"]).toEqual([110, 70]);
    expect(both && withoutEdge(both)).toEqual({ marks, picture: [10, 20, 100, 50] });
  });

  it("is a rectangle however its corners were dragged past each other", () => {
    const crossed = { ...marks, "frame:top-left": [110, 70], "frame:bottom-right": [10, 20] } as Marks;
    expect(withoutEdge(crossed).picture).toEqual([10, 20, 100, 50]);
  });

  it("is none with one corner, and none without marks", () => {
    expect(withoutEdge({ ...marks, "frame:top-left": [1, 1] })).toEqual({ marks, picture: null });
    expect(withEdge(undefined, [1, 2, 3, 4])).toBeUndefined();
    expect(withEdge(marks, null)).toBe(marks);
  });

  it("stays when head and foot are turned, and is saved beside the marks", () => {
    const both = withEdge(marks, [10, 20, 100, 50]) ?? marks;
    expect(withoutEdge(turned(both)).picture).toEqual([10, 20, 100, 50]);
    const [saved] = withMarks([{ sha256: "x", views: [{ from: 0, to: null }] }], 0, 2, both);
    expect(saved?.views?.[0]?.camera).toEqual({ marks, picture: [10, 20, 100, 50], marked_at: 2 });
  });

  it("begins inside the frame", () => {
    const [x, y, width, height] = firstEdge({ width: 1000, height: 500 });
    expect([x, y, x + width, y + height]).toEqual([80, 40, 920, 460]);
  });
});

describe("views", () => {
  const entry = {
    sha256: "x",
    views: [
      { from: 0, to: 10 },
      { from: 10, to: null },
    ],
  };

  it("the last view that has begun holds", () => {
    expect(viewAt(entry, 9.9)?.from).toBe(0);
    expect(viewAt(entry, 10)?.from).toBe(10);
    expect(viewAt(undefined, 1)).toBeUndefined();
  });

  it("marks go to the view that holds", () => {
    const [marked] = withMarks([entry], 0, 12, marks);
    expect(marked?.views?.[0]?.camera).toBeUndefined();
    expect(marked?.views?.[1]?.camera?.marks).toEqual(marks);
  });

  it("a new view ends the one before it", () => {
    const [cut] = withView([{ sha256: "x", views: [{ from: 0, to: null }] }], 0, 4.5);
    expect(cut?.views).toEqual([
      { from: 0, to: 4.5 },
      { from: 4.5, to: null, camera: null },
    ]);
  });
});
