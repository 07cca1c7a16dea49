/** The table as a draughtsman's plan: one pure component for bench, report and print. */
import { memo, useId, useRef, useState } from "react";

import type { Place, Places, Table } from "../api/types";
import look from "../../../src/aretane/draw/look.json";
import { ballLook, ballName } from "./balls";
import { Cloud } from "./Cloud";
import { Shapes, type Shape } from "./shapes";

const MARGIN = look.margin * 1000; // millimetres round the noses

/** Width over height of the plan with its rails. */
export const planRatio = ({ length, width }: Pick<Table, "length" | "width">) =>
  (length + 2 * look.margin) / (width + 2 * look.margin);

/** What a pointer does with the pen. */
export type Stroke = "down" | "move" | "up";

export const strokeOf = ({ type }: React.PointerEvent): Stroke =>
  type === "pointerdown" ? "down" : type === "pointerup" ? "up" : "move";

interface Props {
  table: Table;
  balls: Places;
  ghostly?: Places;
  shapes?: Shape[];
  cloud?: Place[];
  chosen?: string | null;
  /** Balls whose names are not sure. */
  doubts?: string[];
  /** What else can be dragged: zones by their crosses. */
  handles?: { id: string; place: Place }[];
  label: string;
  onPoint?: (place: Place) => void;
  /** With the pen in hand all pointers draw. */
  onPen?: (place: Place, how: Stroke) => void;
  onDrag?: (ball: string, place: Place, done: boolean) => void;
  onBall?: (ball: string) => void;
}

export function TableDrawing({
  table,
  balls,
  ghostly = {},
  shapes = [],
  cloud,
  chosen,
  doubts = [],
  handles = [],
  label,
  onPoint,
  onPen,
  onDrag,
  onBall,
}: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const clip = useId();
  const [held, setHeld] = useState<{ ball: string; moved: boolean } | null>(null);
  const L = table.length * 1000;
  const W = table.width * 1000;
  const to = ([x, y]: Place): Place => [x * 1000, W - y * 1000];
  const unit = (L + 2 * MARGIN) / look.screen;

  const from = (event: React.PointerEvent): Place | null => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return null;
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return [point.x / 1000, (W - point.y) / 1000];
  };

  const down = (ball: string) => (event: React.PointerEvent) => {
    if ((!onDrag && !onBall) || onPen) return;
    event.stopPropagation();
    svg.current?.setPointerCapture(event.pointerId);
    setHeld({ ball, moved: false });
  };
  const pen = (event: React.PointerEvent) => {
    const place = from(event);
    if (event.type === "pointerdown") event.currentTarget.setPointerCapture(event.pointerId);
    if (place) onPen?.(place, strokeOf(event));
  };
  const move = (event: React.PointerEvent) => {
    const place = held && onDrag && from(event);
    if (!place) return;
    setHeld({ ...held, moved: true });
    onDrag(held.ball, place, false);
  };
  const up = (event: React.PointerEvent) => {
    const place = from(event);
    if (held?.moved && place) onDrag?.(held.ball, place, true);
    else if (held) onBall?.(held.ball);
    else if (place) onPoint?.(place);
    setHeld(null);
  };

  return (
    <svg
      ref={svg}
      role="img"
      aria-label={label}
      viewBox={`${-MARGIN} ${-MARGIN} ${L + 2 * MARGIN} ${W + 2 * MARGIN}`}
      className="block w-full touch-none select-none"
      style={{ cursor: onPen ? "crosshair" : undefined }}
      onPointerDown={onPen && pen}
      onPointerMove={onPen ? pen : move}
      onPointerUp={onPen ? pen : up}
      data-testid="drawing"
    >
      <Bare plan={table.plan} width={W} unit={unit} />
      <clipPath id={clip}>
        <rect width={L} height={W} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        {cloud && <Cloud places={cloud} table={table} />}
        <Shapes shapes={shapes.filter((one) => !leavesBed(one))} to={to} unit={unit} />
      </g>
      <Shapes shapes={shapes.filter(leavesBed)} to={to} unit={unit} />
      {Object.entries(ghostly).map(([ball, place]) => {
        const [x, y] = to(place);
        return (
          <circle
            key={ball}
            cx={x}
            cy={y}
            r={table.radius * 1000}
            fill="none"
            stroke="var(--color-base-content)"
            strokeWidth={unit}
            strokeDasharray={`${2 * unit} ${2 * unit}`}
            opacity={0.5}
            pointerEvents="none"
          />
        );
      })}
      {handles.map(({ id, place }) => (
        <Handle key={id} id={id} at={to(place)} unit={unit} onPointerDown={down(id)} />
      ))}
      {Object.entries(balls).map(([ball, place]) => {
        const [x, y] = to(place);
        return (
          <g
            key={ball}
            transform={`translate(${x} ${y})`}
            onPointerDown={down(ball)}
            data-ball={ball}
            style={{ cursor: onPen ? undefined : onDrag ? "grab" : undefined }}
          >
            <title>{ballName(ball)}</title>
            <Ball
              ball={ball}
              radius={(ball === "cue" ? table.cue_radius : table.radius) * 1000}
              unit={unit}
              valued={table.d_radius !== null}
            />
            {doubts.includes(ball) && <Doubt radius={table.radius * 1000} unit={unit} />}
            {ball === chosen && (
              <circle
                r={table.radius * 1000 + 5 * unit}
                fill="none"
                stroke="var(--color-primary)"
                strokeWidth={1.6 * unit}
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** The table without what lies on it: the same from shot to shot. */
const Bare = memo(function Bare({ plan, width, unit }: { plan: Shape[]; width: number; unit: number }) {
  return <Shapes shapes={plan} to={([x, y]) => [x * 1000, width - y * 1000]} unit={unit} />;
});

/** A cross in the middle of a zone. */
function Handle(props: {
  id: string;
  at: Place;
  unit: number;
  onPointerDown: (event: React.PointerEvent) => void;
}) {
  const { at, unit } = props;
  const arm = 6 * unit;
  return (
    <g
      transform={`translate(${String(at[0])} ${String(at[1])})`}
      data-handle={props.id}
      style={{ cursor: "move" }}
      onPointerDown={props.onPointerDown}
    >
      <circle r={12 * unit} fill="transparent" />
      <path
        d={`M${String(-arm)} 0H${String(arm)}M0 ${String(-arm)}V${String(arm)}`}
        stroke="var(--color-primary)"
        strokeWidth={1.4 * unit}
      />
    </g>
  );
}

/** Simulated paths run on into the pockets. */
const leavesBed = (shape: Shape) => shape.line === "cue-path" || shape.line === "ball-path";

/** `valued`: snooker's colours carry their value. */
export function Ball({
  ball,
  radius,
  unit,
  valued = false,
}: {
  ball: string;
  radius: number;
  unit: number;
  valued?: boolean;
}) {
  const { fill, striped, label, dark } = ballLook(ball, valued);
  const { white, stripe, letters, disc, dot } = look.ball;
  const size = label.length > 1 ? "two" : "one";
  const half = radius * stripe;
  const edge = Math.sqrt(radius * radius - half * half);
  return (
    <>
      <circle
        r={radius}
        fill={striped ? white : fill}
        stroke="var(--color-base-content)"
        strokeWidth={unit}
      />
      {striped && (
        <path
          d={`M${-edge} ${-half}A${radius} ${radius} 0 0 1 ${edge} ${-half}L${edge} ${half}A${radius} ${radius} 0 0 1 ${-edge} ${half}Z`}
          fill={fill}
        />
      )}
      {striped && <circle r={radius * disc[size]} fill={white} />}
      {ball === "cue" && <circle r={radius * dot} fill={look.ball.dark} />}
      <text
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={radius * letters[size]}
        fontWeight={700}
        y={radius * letters.down}
        fill={dark ? white : look.ball.dark}
        pointerEvents="none"
      >
        {label}
      </text>
    </>
  );
}

/** A ring of dashes and a question mark: somebody should look whether this is the ball. */
function Doubt({ radius, unit }: { radius: number; unit: number }) {
  return (
    <g data-doubt pointerEvents="none">
      <circle
        r={radius + 4 * unit}
        fill="none"
        stroke="var(--color-warning)"
        strokeWidth={1.6 * unit}
        strokeDasharray={`${3 * unit} ${2 * unit}`}
      />
      <text x={radius + 5 * unit} y={-radius} fontSize={13 * unit} fill="var(--color-base-content)">
        ?
      </text>
    </g>
  );
}
