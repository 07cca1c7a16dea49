/** Marking the table in a picture: first guesses, turning it round, which view a moment belongs to. */
import type { Camera, Game, Marks, Place, Table } from "../../../api/types";
import { project } from "../../../table/camera";

type Entry = NonNullable<Game["header"]["recordings"]>[number];
export type View = NonNullable<Entry["views"]>[number];
type Size = { width: number; height: number };

/** Four corners to begin with, as a camera behind the head rail would see them. */
export function firstMarks({ width, height }: Size): Marks {
  const at = (u: number, v: number): Place => [Math.round(u * width), Math.round(v * height)];
  return {
    "corner:head-left": at(0.15, 0.88),
    "corner:head-right": at(0.85, 0.88),
    "corner:foot-right": at(0.68, 0.18),
    "corner:foot-left": at(0.32, 0.18),
  };
}

const EDGE = ["frame:top-left", "frame:bottom-right"] as const;

/** The marks and, as two more of them, the corners of the real picture inside a screen recording. */
export function withEdge(marks: Marks | undefined, picture: number[] | null | undefined): Marks | undefined {
  if (!marks || picture?.length !== 4) return marks;
  const [x, y, width, height] = picture as [number, number, number, number];
  return { ...marks, [EDGE[0]]: [x, y], [EDGE[1]]: [x + width, y + height] };
}

/** The table's marks alone, and the rectangle of the real picture if both of its corners are set. */
export function withoutEdge(marks: Marks): {
  marks: Marks;
  picture: [number, number, number, number] | null;
} {
  const [one, other] = EDGE.map((name) => marks[name]);
  const own = Object.fromEntries(Object.entries(marks).filter(([name]) => !name.startsWith("frame:")));
  if (!one || !other) return { marks: own, picture: null };
  const [left, right] = [one[0], other[0]].sort((a, b) => a - b) as [number, number];
  const [top, bottom] = [one[1], other[1]].sort((a, b) => a - b) as [number, number];
  return { marks: own, picture: [left, top, right - left, bottom - top] };
}

/** Where the corners of the real picture are put first, to be dragged. */
export function firstEdge({ width, height }: Size): [number, number, number, number] {
  return [
    Math.round(width * 0.08),
    Math.round(height * 0.08),
    Math.round(width * 0.84),
    Math.round(height * 0.84),
  ];
}

/** More points of one sort, where the camera expects them. */
export function withMore(marks: Marks, camera: Camera, table: Table, sort: "pocket" | "sight"): Marks {
  const found: Marks = { ...marks };
  for (const [name, [x, y, z]] of Object.entries(table.marks)) {
    if (!name.startsWith(sort) || found[name]) continue;
    const pixel = project(camera, x, y, z);
    if (pixel) found[name] = [Math.round(pixel[0] * 10) / 10, Math.round(pixel[1] * 10) / 10];
  }
  return found;
}

/** The same points with the other end as the head. */
export function turned(marks: Marks): Marks {
  return Object.fromEntries(Object.entries(marks).map(([name, at]) => [otherEnd(name), at]));
}

function otherEnd(name: string): string {
  const [sort = "", place = ""] = name.split(":");
  const [one = "", two = ""] = place.split("-");
  const opposite: Record<string, string> = { head: "foot", foot: "head", left: "right", right: "left" };
  const turn = (word: string) => opposite[word] ?? word;
  if (sort === "frame") return name;
  if (sort !== "sight") return `${sort}:${turn(one)}-${turn(two)}`;
  const count = one === "left" || one === "right" ? 8 : 4;
  return `${sort}:${turn(one)}-${count - Number(two)}`;
}

/** The view that holds at a time of a recording. */
export function viewAt(entry: Entry | undefined, time: number): View | undefined {
  return [...(entry?.views ?? [])].reverse().find((view) => (view.from ?? 0) <= time + 1e-6);
}

/** The match's recordings with these marks, and the picture's edge among them, in the view that holds at `time`. */
export function withMarks(entries: Entry[], index: number, time: number, marks: Marks): Entry[] {
  return entries.map((entry, number) => {
    if (number !== index) return entry;
    const views = entry.views?.length ? entry.views : [{ from: 0, to: null, camera: null }];
    const holding = viewAt({ ...entry, views }, time) ?? views[0];
    const told = { ...withoutEdge(marks), marked_at: Math.round(time * 1000) / 1000 };
    return {
      ...entry,
      views: views.map((view) =>
        view === holding ? { ...view, camera: { ...view.camera, ...told } } : view,
      ),
    };
  });
}

/** A new view from this moment on: the camera was moved, or the recording was cut. */
export function withView(entries: Entry[], index: number, time: number): Entry[] {
  return entries.map((entry, number) => {
    if (number !== index) return entry;
    const from = Math.round(time * 1000) / 1000;
    const before = (entry.views ?? []).filter((view) => (view.from ?? 0) < from);
    const ended = before.map((view, at) => (at === before.length - 1 ? { ...view, to: from } : view));
    return { ...entry, views: [...ended, { from, to: null, camera: null }] };
  });
}
