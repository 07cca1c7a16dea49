/** What a coach draws by hand: lines, arrows, circles, areas in three inks, each with a stroke of its own. Drawn on the
 * table, so that picture, plan and what goes out show the same. */
import type { Place, Places, ShotDocument, Table } from "../api/types";
import { ring, type Line, type Shape } from "./shapes";

export type Drawing = NonNullable<ShotDocument["drawings"]>[number];

export const KINDS = ["line", "arrow", "circle", "area"] as const;
export type Kind = (typeof KINDS)[number];
export const INKS = ["dark", "red", "blue"] as const;
export type Ink = (typeof INKS)[number];

const LOOKS: Record<string, Line> = { dark: "ink-dark", red: "ink-red", blue: "ink-blue" };
const BARB = 0.06; // m of an arrow's head, at most a third of the arrow
const SPREAD = (25 * Math.PI) / 180; // half of its angle

/** As the server draws them in what goes out (draw/drawn.py). */
export function inkShapes(drawings: readonly Drawing[], labels: readonly string[] = []): Shape[] {
  return drawings.flatMap((one, index): Shape[] => {
    const points = one.points as Place[];
    const [first] = points;
    const last = points[points.length - 1];
    if (!first || !last || points.length < 2) return [];
    const line = LOOKS[one.ink ?? ""] ?? "ink-dark";
    const label = one.text ?? labels[index];
    if (one.kind === "circle")
      return [
        { line, points: ring(first, Math.hypot(last[0] - first[0], last[1] - first[1])), closed: true },
      ];
    if (one.kind === "arrow") return [{ line, points: withHead(points), label }];
    return [{ line, points, closed: one.kind === "area", label }];
  });
}

function withHead(points: Place[]): Place[] {
  const [start, end] = points.slice(-2) as [Place, Place];
  const back = Math.atan2(start[1] - end[1], start[0] - end[0]);
  const barb = Math.min(BARB, Math.hypot(end[0] - start[0], end[1] - start[1]) / 3);
  const at = (turn: number): Place => [
    end[0] + barb * Math.cos(back + turn),
    end[1] + barb * Math.sin(back + turn),
  ];
  return [...points, at(-SPREAD), end, at(SPREAD), end];
}

const AT_A_BALL = 1.6; // radii within which a ball's centre is meant
const AT_A_POCKET = 0.09; // m from the middle of its mouth
const AT_A_RAIL = 1.2; // radii from where a ball touches it

/** The point that is meant: a ball's centre, a pocket's mouth, where a ball would touch the rail, or itself. */
export function snapped(table: Table, balls: Places, place: Place): { place: Place; to: string | null } {
  const away = (at: Place) => Math.hypot(at[0] - place[0], at[1] - place[1]);
  const near = anchorsOf(table, balls)
    .filter((one) => away(one.place) < (one.pocket ? AT_A_POCKET : AT_A_BALL * table.radius))
    .sort((one, other) => away(one.place) - away(other.place))[0];
  if (near) return { place: near.place, to: near.to };
  const r = table.radius;
  const onto = (value: number, far: number) =>
    Math.abs(value - r) < AT_A_RAIL * r ? r : Math.abs(value - far + r) < AT_A_RAIL * r ? far - r : value;
  const at: Place = [onto(place[0], table.length), onto(place[1], table.width)];
  return { place: at, to: at[0] === place[0] && at[1] === place[1] ? null : "the rail" };
}

/** What a line can begin or end at, from the head on: balls, then pockets. */
export function anchorsOf(table: Table, balls: Places): { place: Place; to: string; pocket: boolean }[] {
  return [
    ...Object.entries(balls)
      .sort(([, one], [, other]) => one[0] - other[0])
      .map(([ball, place]) => ({
        place,
        to: ball === "cue" ? "the cue ball" : `the ${ball}`,
        pocket: false,
      })),
    ...table.pockets.map(({ name, mouth }) => ({ place: mouth, to: name.replace("-", " "), pocket: true })),
  ];
}
