/** What is drawn over a table, in metres, so that the plan and the picture show the same thing. */
import look from "../../../src/aretane/draw/look.json";
import type { DrawnShape, Place } from "../api/types";

export type Line = DrawnShape["line"];
export type Shape = Pick<DrawnShape, "line" | "points"> & Partial<DrawnShape>;

interface LineLook {
  stroke: string | null;
  width: number;
  dash?: number[];
  fill?: string;
  shares?: number[];
  opacity?: number;
  letters?: number;
}

const LINES: Record<Line, LineLook> = look.lines;

/** The page's own colours under the names that the drawing has for them. */
const COLOURS: Record<string, string> = {
  ink: "base-content", rail: "base-200", cloth: "base-100", hole: "base-300", accent: "primary", second: "secondary",
  warning: "warning", error: "error", blue: "ink-blue",
}; // prettier-ignore

const colour = (name: string, share = 100) => {
  const own = `var(--color-${COLOURS[name] ?? name})`;
  return share < 100 ? `color-mix(in oklab, ${own} ${String(share)}%, transparent)` : own;
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
        const own = LINES[shape.line];
        const d = `M${points.map((p) => `${p[0].toFixed(1)} ${p[1].toFixed(1)}`).join("L")}${shape.closed ? "Z" : ""}`;
        return (
          <g key={index} data-line={shape.line} opacity={own.opacity}>
            {shape.line === "end" ? (
              <EndName points={points} name={shape.label ?? ""} size={(own.letters ?? 0) * unit} />
            ) : (
              <path
                d={d}
                fill={own.fill && shape.closed ? colour(own.fill, own.shares?.[shape.part ?? 0]) : "none"}
                stroke={own.stroke ? colour(own.stroke) : undefined}
                strokeWidth={own.width * unit}
                strokeDasharray={own.dash?.map((part) => part * unit).join(" ")}
              />
            )}
            {shape.label && shape.line !== "end" && <Label points={points} name={shape.label} unit={unit} />}
          </g>
        );
      })}
    </g>
  );
}

/** What the players call an end of the table, written along its rail. */
function EndName({ points, name, size }: { points: Place[]; name: string; size: number }) {
  const [at = [0, 0], towards = [0, 0]] = points;
  const turn = (Math.atan2(towards[1] - at[1], towards[0] - at[0]) * 180) / Math.PI;
  return (
    <text
      transform={`translate(${String(at[0])} ${String(at[1])}) rotate(${String(turn)})`}
      fontSize={size}
      fill={colour("ink")}
      textAnchor="middle"
      dominantBaseline="central"
    >
      {name}
    </text>
  );
}

function Label({ points, name, unit }: { points: Place[]; name: string; unit: number }) {
  const { letters, shortest, off, halo } = look.label;
  const at = labelPlace(points, shortest * unit);
  if (!at) return null;
  return (
    <text
      x={at[0] + off * unit}
      y={at[1] - off * unit}
      fontSize={letters * unit}
      fill={colour("ink")}
      paintOrder="stroke"
      stroke={colour("cloth")}
      strokeWidth={halo * unit}
    >
      {name}
    </text>
  );
}

/** The middle of a line that is long enough to be named. */
function labelPlace(points: Place[], shortest: number): Place | null {
  const [first, last] = [points[0], points[points.length - 1]];
  if (!first || !last || Math.hypot(last[0] - first[0], last[1] - first[1]) < shortest) return null;
  return [(first[0] + last[0]) / 2, (first[1] + last[1]) / 2];
}

export function ring(centre: Place, radius: number, steps = 32): Place[] {
  return Array.from({ length: steps }, (_, step) => {
    const angle = (2 * Math.PI * step) / steps;
    return [centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle)];
  });
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
