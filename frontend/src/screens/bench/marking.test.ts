import { describe, expect, it } from "vitest";

import type { Marks } from "../../api/types";
import { turned, viewAt, withMarks, withView } from "./marking";

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
