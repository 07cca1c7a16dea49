/** The table as a draughtsman's plan: one pure component for bench, report and print. */
import { useId, useRef, useState } from "react";

import type { Place, Places, Table } from "../api/types";
import { ballName, look } from "./balls";
import { Cloud } from "./Cloud";
import { Shapes, type Shape } from "./shapes";

const MARGIN = 150; // millimetres round the noses
const RAIL = 112;

interface Props {
  table: Table;
  balls: Places;
  ghostly?: Places;
  shapes?: Shape[];
  cloud?: Place[];
  chosen?: string | null;
  /** Balls whose names are not sure. */
  doubts?: string[];
  label: string;
  onPoint?: (place: Place) => void;
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
  label,
  onPoint,
  onDrag,
  onBall,
}: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const clip = useId();
  const [held, setHeld] = useState<{ ball: string; moved: boolean } | null>(null);
  const L = table.length * 1000;
  const W = table.width * 1000;
  const to = ([x, y]: Place): Place => [x * 1000, W - y * 1000];
  const unit = (L + 2 * MARGIN) / 640;

  const from = (event: React.PointerEvent): Place | null => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return null;
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return [point.x / 1000, (W - point.y) / 1000];
  };

  const down = (ball: string) => (event: React.PointerEvent) => {
    if (!onDrag) return;
    event.stopPropagation();
    svg.current?.setPointerCapture(event.pointerId);
    setHeld({ ball, moved: false });
  };
  const move = (event: React.PointerEvent) => {
    const place = held && from(event);
    if (!place) return;
    setHeld({ ...held, moved: true });
    onDrag?.(held.ball, place, false);
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
      onPointerMove={move}
      onPointerUp={up}
      data-testid="drawing"
    >
      <Plan table={table} unit={unit} />
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
      {Object.entries(balls).map(([ball, place]) => {
        const [x, y] = to(place);
        return (
          <g
            key={ball}
            transform={`translate(${x} ${y})`}
            onPointerDown={down(ball)}
            data-ball={ball}
            style={{ cursor: onDrag ? "grab" : undefined }}
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

/** Simulated paths run on into the pockets. */
const leavesBed = (shape: Shape) => shape.line === "cue-path" || shape.line === "ball-path";

/** Cushion noses, pockets, sights, head string and foot spot. */
function Plan({ table, unit }: { table: Table; unit: number }) {
  const L = table.length * 1000;
  const W = table.width * 1000;
  const ink = "var(--color-base-content)";
  const thin = 0.8 * unit;
  const lettered = (3 * W) / 8; // between two sights of the short rail
  const sighted = Object.keys(table.marks).some((mark) => mark.startsWith("sight"));
  const sights = (
    !sighted
      ? []
      : [
          ...[1, 2, 3, 5, 6, 7].flatMap((n) => [
            [(n * L) / 8, -RAIL * 0.62],
            [(n * L) / 8, W + RAIL * 0.62],
          ]),
          ...[1, 2, 3].flatMap((n) => [
            [-RAIL * 0.62, (n * W) / 4],
            [L + RAIL * 0.62, (n * W) / 4],
          ]),
        ]
  ) as Place[];
  return (
    <g fill="none" stroke={ink} strokeWidth={thin}>
      <rect
        x={-RAIL}
        y={-RAIL}
        width={L + 2 * RAIL}
        height={W + 2 * RAIL}
        rx={40}
        fill="var(--color-base-200)"
      />
      <rect x={0} y={0} width={L} height={W} fill="var(--color-base-100)" stroke="none" />
      <g strokeWidth={0.5 * unit} opacity={0.16}>
        {[1, 2, 3, 4, 5, 6, 7].map((n) => (
          <path key={n} d={`M${(n * L) / 8} 0V${W}`} />
        ))}
        {[1, 2, 3].map((n) => (
          <path key={n} d={`M0 ${(n * W) / 4}H${L}`} />
        ))}
      </g>
      <path
        d={`M${table.head_line * 1000} 0V${W}`}
        strokeDasharray={`${9 * unit} ${3 * unit} ${2 * unit} ${3 * unit}`}
        opacity={0.5}
      />
      {table.spots.map(([x, y]) => (
        <path
          key={`${x} ${y}`}
          d={`M${x * 1000 - 14} ${W - y * 1000}h28m-14 -14v28`}
          strokeWidth={thin}
          opacity={0.7}
        />
      ))}
      {table.d_radius !== null && (
        <path
          d={`M${table.head_line * 1000} ${W / 2 - table.d_radius * 1000}a${table.d_radius * 1000} ${table.d_radius * 1000} 0 0 0 0 ${2000 * table.d_radius}`}
          opacity={0.5}
        />
      )}
      <path d={noses(table)} strokeWidth={1.3 * unit} />
      {table.pockets.map((pocket) => {
        const x = (pocket.drop[0] + (pocket.width / 2) * pocket.axis[0]) * 1000;
        const y = W - (pocket.drop[1] + (pocket.width / 2) * pocket.axis[1]) * 1000;
        return <circle key={pocket.name} cx={x} cy={y} r={pocket.width * 430} fill="var(--color-base-300)" />;
      })}
      {sights.map(([x, y], index) => (
        <path key={index} d={`M${x} ${y - 9}l9 9l-9 9l-9 -9z`} fill={ink} stroke="none" opacity={0.75} />
      ))}
      <g
        stroke="none"
        fill={ink}
        fontSize={9.5 * unit}
        opacity={0.6}
        textAnchor="middle"
        dominantBaseline="central"
      >
        <text x={-RAIL / 2} y={lettered} transform={`rotate(-90 ${-RAIL / 2} ${lettered})`}>
          {table.ends[0]}
        </text>
        <text x={L + RAIL / 2} y={lettered} transform={`rotate(90 ${L + RAIL / 2} ${lettered})`}>
          {table.ends[1]}
        </text>
      </g>
    </g>
  );
}

/** The nose lines with their gaps at the pockets. */
function noses(table: Table): string {
  const W = table.width;
  const tip = (name: string, index: number): string => {
    const point = table.pockets.find((pocket) => pocket.name === name)?.tips[index];
    return point ? `${point[0] * 1000} ${(W - point[1]) * 1000}` : "0 0";
  };
  const rail = (a: [string, number], b: [string, number]) => `M${tip(...a)}L${tip(...b)}`;
  return [
    rail(["head-right", 0], ["side-right", 0]),
    rail(["side-right", 1], ["foot-right", 0]),
    rail(["head-left", 0], ["side-left", 0]),
    rail(["side-left", 1], ["foot-left", 0]),
    rail(["head-right", 1], ["head-left", 1]),
    rail(["foot-right", 1], ["foot-left", 1]),
  ].join("");
}

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
  const { fill, striped, label, dark } = look(ball, valued);
  const half = radius * 0.56;
  const edge = Math.sqrt(radius * radius - half * half);
  return (
    <>
      <circle
        r={radius}
        fill={striped ? "#fffdf6" : fill}
        stroke="var(--color-base-content)"
        strokeWidth={unit}
      />
      {striped && (
        <path
          d={`M${-edge} ${-half}A${radius} ${radius} 0 0 1 ${edge} ${-half}L${edge} ${half}A${radius} ${radius} 0 0 1 ${-edge} ${half}Z`}
          fill={fill}
        />
      )}
      {striped && <circle r={radius * (label.length > 1 ? 0.68 : 0.5)} fill="#fffdf6" />}
      {ball === "cue" && <circle r={radius * 0.18} fill="#22303c" />}
      <text
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={radius * (label.length > 1 ? 0.92 : 1.15)}
        fontWeight={700}
        y={radius * 0.06}
        fill={dark ? "#fffdf6" : "#22303c"}
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
