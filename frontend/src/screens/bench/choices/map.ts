/** Reading a position map: the value at a place, and its graded zones as shapes. */
import type { Place, PositionMap } from "../../../api/types";
import { zoneShapes, type Shape } from "../../../table/shapes";

export type Layer = "run" | "win";

/** The map's value at a place, between its grid's places (bilinear). */
export function valueAt(map: PositionMap, layer: Layer, [x, y]: Place): number {
  const u = within((x - map.x[0]) / (map.x[1] - map.x[0])) * (map.columns - 1);
  const v = within((y - map.y[0]) / (map.y[1] - map.y[0])) * (map.rows - 1);
  const i = Math.min(Math.floor(u), map.columns - 2);
  const j = Math.min(Math.floor(v), map.rows - 2);
  const [a, b] = [u - i, v - j];
  const at = (column: number, row: number) => map[layer][column * map.rows + row] ?? 0;
  const low = at(i, j) * (1 - b) + at(i, j + 1) * b;
  const high = at(i + 1, j) * (1 - b) + at(i + 1, j + 1) * b;
  return low * (1 - a) + high * a;
}

const within = (share: number) => Math.min(1, Math.max(0, share));

const GRADES = [
  ["ideal", 0.85],
  ["acceptable", 0.6],
  ["recoverable", 0.3],
] as const;

/** The grade of a place, as the server's zones have it. */
export function gradeAt(map: PositionMap, place: Place): string {
  if (map.best < 1e-4) return "forbidden";
  const share = valueAt(map, "run", place) / map.best;
  return GRADES.find(([, least]) => share >= least)?.[0] ?? "forbidden";
}

export const mapShapes = (map: PositionMap): Shape[] => zoneShapes(map.zones);
