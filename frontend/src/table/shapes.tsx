/** What is drawn over a table, in metres, so that the plan and the picture show the same thing. */
import type { Place, MeasuredShot, Table } from "../api/types";

export type Line =
  | "pocket"
  | "aim"
  | "stun"
  | "roll"
  | "ghost"
  | "ideal"
  | "acceptable"
  | "recoverable"
  | "forbidden"
  | "error"
  | "route"
  | "cue-path"
  | "ball-path"
  | "contact"
  | "outline";

export interface Shape {
  line: Line;
  points: Place[];
  closed?: boolean;
  label?: string;
}

const LOOK: Record<Line, { stroke: string; dash?: string; fill?: string; width: number }> = {
  pocket: { stroke: "var(--color-base-content)", width: 1 },
  aim: { stroke: "var(--color-base-content)", width: 1, dash: "1 3" },
  stun: { stroke: "var(--color-secondary)", width: 1.2, dash: "7 3" },
  roll: { stroke: "var(--color-secondary)", width: 1.2, dash: "2 2" },
  ghost: { stroke: "var(--color-primary)", width: 1.2, dash: "3 2" },
  ideal: {
    stroke: "var(--color-primary)",
    width: 1,
    fill: "color-mix(in oklab, var(--color-primary) 26%, transparent)",
  },
  acceptable: {
    stroke: "var(--color-primary)",
    width: 1,
    dash: "4 2",
    fill: "color-mix(in oklab, var(--color-primary) 12%, transparent)",
  },
  recoverable: { stroke: "var(--color-warning)", width: 1, dash: "2 4" },
  forbidden: { stroke: "var(--color-error)", width: 1.4, dash: "8 2 2 2" },
  error: { stroke: "var(--color-primary)", width: 1.8 },
  route: { stroke: "var(--color-base-content)", width: 1, dash: "6 4" },
  "cue-path": { stroke: "var(--color-base-content)", width: 1.5 },
  "ball-path": { stroke: "var(--color-secondary)", width: 1.3, dash: "8 3" },
  contact: { stroke: "var(--color-base-content)", width: 0.8, dash: "2 2" },
  outline: { stroke: "var(--color-primary)", width: 1.2 },
};

/** Shapes as paths. `to` takes a place to the drawing's own coordinates; `unit` is one screen pixel there. */
export function Shapes({
  shapes,
  to,
  unit,
}: {
  shapes: Shape[];
  to: (place: Place) => Place | null;
  unit: number;
}) {
  return (
    <g pointerEvents="none">
      {shapes.map((shape, index) => {
        const points = shape.points.map(to).filter((point): point is Place => point !== null);
        if (points.length < 2) return null;
        const look = LOOK[shape.line];
        const dash = look.dash
          ?.split(" ")
          .map((part) => Number(part) * unit)
          .join(" ");
        const d = `M${points.map((p) => `${p[0].toFixed(1)} ${p[1].toFixed(1)}`).join("L")}${shape.closed ? "Z" : ""}`;
        const named = labelPlace(points, 26 * unit);
        return (
          <g key={index} data-line={shape.line}>
            <path
              d={d}
              fill={look.fill ?? "none"}
              stroke={look.stroke}
              strokeWidth={look.width * unit}
              strokeDasharray={dash}
            />
            {shape.label && named && (
              <text
                x={named[0] + 4 * unit}
                y={named[1] - 4 * unit}
                fontSize={11 * unit}
                fill="var(--color-base-content)"
                paintOrder="stroke"
                stroke="var(--color-base-100)"
                strokeWidth={3 * unit}
              >
                {shape.label}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** The middle of a line that is long enough to be named. */
function labelPlace(points: Place[], shortest: number): Place | null {
  const [first, last] = [points[0], points[points.length - 1]];
  if (!first || !last || Math.hypot(last[0] - first[0], last[1] - first[1]) < shortest) return null;
  return [(first[0] + last[0]) / 2, (first[1] + last[1]) / 2];
}

export function ring(centre: Place, radius: number, steps = 40): Place[] {
  return Array.from({ length: steps }, (_, step) => {
    const angle = (2 * Math.PI * step) / steps;
    return [centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle)];
  });
}

/** Where a line from `start` in `direction` meets a cushion (the ball's centre keeps a radius away). */
export function toRail(table: Table, start: Place, direction: number): Place {
  const [ux, uy] = [Math.cos(direction), Math.sin(direction)];
  const r = table.radius;
  const runs = [
    ux > 1e-9 ? (table.length - r - start[0]) / ux : ux < -1e-9 ? (r - start[0]) / ux : Infinity,
    uy > 1e-9 ? (table.width - r - start[1]) / uy : uy < -1e-9 ? (r - start[1]) / uy : Infinity,
  ];
  const run = Math.max(0, Math.min(...runs));
  return [start[0] + run * ux, start[1] + run * uy];
}

/** Ghost ball, pocket line, aim and the two natural lines of one shot. */
export function shotShapes(table: Table, cue: Place | undefined, ball: Place, reading: MeasuredShot): Shape[] {
  const mouth = table.pockets.find((pocket) => pocket.name === reading.pocket)?.mouth;
  if (!mouth) return [];
  const ghost = reading.ghost as Place;
  const shapes: Shape[] = [
    { line: "pocket", points: [ball, mouth] },
    { line: "ghost", points: ring(ghost, table.cue_radius), closed: true },
  ];
  if (cue && reading.cut_angle_deg !== null) shapes.push({ line: "aim", points: [cue, ghost] });
  if (reading.stun_direction !== null)
    shapes.push({
      line: "stun",
      points: [ghost, toRail(table, ghost, reading.stun_direction)],
      label: "stun",
    });
  if (reading.roll_direction !== null)
    shapes.push({
      line: "roll",
      points: [ghost, toRail(table, ghost, reading.roll_direction)],
      label: "roll",
    });
  return shapes;
}

interface ZoneData {
  grade?: string;
  centre?: number[];
  radius?: number;
  outline?: number[][];
}

export function zoneShapes(zones: ZoneData[] | undefined): Shape[] {
  return [...(zones ?? [])].reverse().map((zone) => ({
    line: (zone.grade ?? "acceptable") as Line,
    points: zone.outline?.length
      ? zone.outline.map((point): Place => [point[0] ?? 0, point[1] ?? 0])
      : ring([zone.centre?.[0] ?? 0, zone.centre?.[1] ?? 0], zone.radius ?? 0),
    closed: true,
  }));
}
