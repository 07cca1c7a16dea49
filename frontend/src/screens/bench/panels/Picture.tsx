/** The recording with what is known drawn over it: rings, lines, zone, table outline, marks. */
import { useRef, useState } from "react";

import type { Camera, Marks, Place, Places, Recording, Table } from "../../../api/types";
import { ballLook } from "../../../table/balls";
import { ballPixels, placeAt, project } from "../../../table/camera";
import { Shapes, type Shape } from "../../../table/shapes";
import { Ball, strokeOf, type Stroke } from "../../../table/TableDrawing";
import { withoutEdge } from "../model/marking";

interface Props {
  recording: Recording;
  video: HTMLVideoElement | null;
  onVideo: (video: HTMLVideoElement | null) => void;
  table: Table;
  camera: Camera | undefined;
  balls: Places;
  shapes: Shape[];
  chosen: string | null;
  doubts?: string[];
  /** Show the layout as it is drawn in the place of the picture. */
  drawn?: boolean;
  marks: Marks | null;
  /** The mark that the arrows move. */
  mark?: string | null;
  placing: boolean;
  onMarks: (marks: Marks, done: boolean) => void;
  onPoint: (place: Place) => void;
  /** With the pen in hand all pointers draw. */
  onPen?: (place: Place, how: Stroke) => void;
  onDrag: (ball: string, place: Place, done: boolean) => void;
  onBall: (ball: string) => void;
}

type Held = { mark: string; at: Place; grip: Place; moved: boolean } | { ball: string; moved: boolean };

const APART = 1.8; // radii between two places that cannot be one ball's
const REACH = 11; // screen pixels within which a mark is under the pointer

export function Picture(props: Props) {
  const { recording, video, onVideo, table, camera, balls, shapes, chosen, marks } = props;
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<Held | null>(null);
  const { width, height } = recording.probe;
  const unit = width / 620;

  const pixel = (event: React.MouseEvent): Place => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    return [
      ((event.clientX - box.left) / box.width) * width,
      ((event.clientY - box.top) / box.height) * height,
    ];
  };
  const place = (event: React.PointerEvent) => (camera ? placeAt(camera, pixel(event), table.radius) : null);
  const to = ([x, y]: Place): Place | null => (camera ? project(camera, x, y, table.radius) : null);

  /** The mark nearest to the pointer: pockets and corners lie close together at the far end. */
  const nearestMark = (event: React.MouseEvent) => {
    const [u, v] = pixel(event);
    const away = ([, at]: [string, Place]) => Math.hypot(at[0] - u, at[1] - v);
    const nearest = Object.entries(marks ?? {}).sort((one, other) => away(one) - away(other))[0];
    return nearest && away(nearest) < REACH * unit ? nearest : null;
  };
  const holdMark = (event: React.PointerEvent) => {
    const nearest = nearestMark(event);
    if (!nearest) return;
    const [mark, at] = nearest;
    const [u, v] = pixel(event);
    svg.current?.setPointerCapture(event.pointerId);
    setHeld({ mark, at, grip: [at[0] - u, at[1] - v], moved: false });
  };
  const pen = (event: React.PointerEvent) => {
    const at = place(event);
    if (event.type === "pointerdown") event.currentTarget.setPointerCapture(event.pointerId);
    if (at) props.onPen?.(at, strokeOf(event));
  };
  const hold = (what: Held) => (event: React.PointerEvent) => {
    if (props.onPen) return;
    event.stopPropagation();
    svg.current?.setPointerCapture(event.pointerId);
    setHeld(what);
  };
  const move = (event: React.PointerEvent) => {
    if (!held) return;
    if ("mark" in held) {
      const [u, v] = pixel(event);
      const at: Place = [u + held.grip[0], v + held.grip[1]];
      setHeld({ ...held, at, moved: true });
      props.onMarks({ ...marks, [held.mark]: at }, false);
      return;
    }
    const at = place(event);
    setHeld({ ...held, moved: true });
    if (at) props.onDrag(held.ball, at, false);
  };
  const up = (event: React.PointerEvent) => {
    const at = place(event);
    if (held && "mark" in held) {
      if (held.moved) props.onMarks({ ...marks, [held.mark]: held.at }, true);
    } else if (held && "ball" in held && held.moved && at) props.onDrag(held.ball, at, true);
    else if (held && "ball" in held && !(at && behind(held.ball, at))) props.onBall(held.ball);
    else if (at && !marks) props.onPoint(at);
    setHeld(null);
  };

  /** A click on a ball's ring that means a place behind it: rings overlap where the camera looks flat. */
  const behind = (ball: string, at: Place) => {
    const own = balls[ball];
    return own !== undefined && Math.hypot(own[0] - at[0], own[1] - at[1]) > APART * table.radius;
  };

  /** A double click takes the mark under it away. */
  const takeAway = (event: React.MouseEvent) => {
    const near = nearestMark(event)?.[0];
    if (near)
      props.onMarks(Object.fromEntries(Object.entries(marks ?? {}).filter(([name]) => name !== near)), true);
  };

  return (
    <div className="relative size-full bg-black">
      <video
        ref={onVideo}
        className="absolute inset-0 size-full"
        style={{ objectFit: "fill" }}
        muted
        playsInline
        preload="auto"
        src={`/api/recordings/${recording.sha256}/file`}
        aria-label={`Recording ${recording.name}`}
        data-testid="video"
      />
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="none"
        data-testid="picture"
        className="absolute inset-0 size-full touch-none select-none"
        style={{ cursor: props.placing ? "crosshair" : undefined }}
        onPointerDown={marks ? holdMark : props.onPen && pen}
        onPointerMove={props.onPen ? pen : move}
        onPointerUp={props.onPen ? pen : up}
        onDoubleClick={takeAway}
        role="img"
        data-light-ink
        aria-label="Picture with the table's outline and the balls' rings"
      >
        {camera && props.drawn && (
          <Drawn table={table} camera={camera} balls={balls} size={[width, height]} />
        )}
        {camera && <Outline table={table} camera={camera} unit={unit} />}
        {!marks && <Shapes shapes={shapes} to={to} unit={unit} />}
        {camera &&
          !marks &&
          Object.entries(balls).map(([ball, at]) => {
            const centre = to(at);
            if (!centre) return null;
            const r = ballPixels(camera, at, table.radius);
            return (
              <g
                key={ball}
                data-ring={ball}
                onPointerDown={hold({ ball, moved: false })}
                style={{ cursor: "grab" }}
              >
                <circle
                  cx={centre[0]}
                  cy={centre[1]}
                  r={Math.max(r, 6 * unit)}
                  fill="transparent"
                  stroke={ball === chosen ? "#ff8d66" : "#fffdf6"}
                  strokeWidth={(ball === chosen ? 2 : 1.2) * unit}
                  strokeDasharray={props.doubts?.includes(ball) ? `${3 * unit} ${2 * unit}` : undefined}
                />
                <text
                  x={centre[0] + r + 2 * unit}
                  y={centre[1] - r}
                  fontSize={10.5 * unit}
                  fill="#fffdf6"
                  stroke="#000a"
                  strokeWidth={2.5 * unit}
                  paintOrder="stroke"
                  pointerEvents="none"
                >
                  {ball === "cue" ? "cue" : ballLook(ball).label || ball}
                  {props.doubts?.includes(ball) && " ?"}
                </text>
              </g>
            );
          })}
        {marks && <Edge marks={marks} unit={unit} />}
        {marks &&
          Object.entries(marks).map(([name, [u, v]]) => (
            <g key={name} data-mark={name} style={{ cursor: "move" }}>
              <circle cx={u} cy={v} r={REACH * unit} fill="transparent" />
              <path
                d={/^(corner|frame)/.test(name) ? cross(u, v, 8 * unit) : diamond(u, v, 7 * unit)}
                fill="none"
                stroke="#000"
                strokeWidth={3 * unit}
                opacity={0.5}
              />
              <path
                d={/^(corner|frame)/.test(name) ? cross(u, v, 8 * unit) : diamond(u, v, 7 * unit)}
                fill="none"
                stroke={name === props.mark ? "#fffdf6" : "#ffb199"}
                strokeWidth={(name === props.mark ? 2.4 : 1.4) * unit}
              />
              <text
                x={u > 0.85 * width ? u - 10 * unit : u + 10 * unit}
                y={name.startsWith("pocket") ? v + 18 * unit : v - 8 * unit}
                textAnchor={u > 0.85 * width ? "end" : "start"}
                fontSize={10 * unit}
                fill="#fffdf6"
                stroke="#000a"
                strokeWidth={2.5 * unit}
                paintOrder="stroke"
                pointerEvents="none"
              >
                {markLabel(name)}
              </text>
            </g>
          ))}
      </svg>
      {held && "mark" in held && <Magnifier video={video} at={held.at} size={[width, height]} />}
    </div>
  );
}

/** What a mark is of, in words: a far corner and its pocket lie close together. */
function markLabel(name: string): string {
  const [kind, place = ""] = name.split(":");
  return `${place.replace("-", " ")}${kind === "pocket" ? " pocket" : ""}`;
}

/** The real picture inside a screen recording. */
function Edge({ marks, unit }: { marks: Marks; unit: number }) {
  const { picture } = withoutEdge(marks);
  if (!picture) return null;
  const [x, y, width, height] = picture;
  return (
    <rect
      data-testid="picture-edge"
      {...{ x, y, width, height }}
      fill="none"
      stroke="#fffdf6"
      strokeWidth={1.2 * unit}
      strokeDasharray={`${2 * unit} ${3 * unit}`}
      pointerEvents="none"
    />
  );
}

const cross = (u: number, v: number, s: number) => `M${u - s} ${v}H${u + s}M${u} ${v - s}V${v + s}`;
const diamond = (u: number, v: number, s: number) =>
  `M${u} ${v - s}L${u + s} ${v}L${u} ${v + s}L${u - s} ${v}Z`;

/** The nose lines as the camera sees them: where they leave the picture's own, the marks are wrong. */
function Outline({ table, camera, unit }: { table: Table; camera: Camera; unit: number }) {
  const corners: Place[] = [
    [0, 0],
    [table.length, 0],
    [table.length, table.width],
    [0, table.width],
  ];
  const points = corners
    .flatMap(([x, y], index) => {
      const [nx, ny] = corners[(index + 1) % 4] ?? [x, y];
      return [0, 0.25, 0.5, 0.75].map((share): Place => [x + share * (nx - x), y + share * (ny - y)]);
    })
    .map(([x, y]) => project(camera, x, y, table.nose_height))
    .filter((point): point is Place => point !== null);
  return (
    <path
      d={`M${points.map((p) => p.join(" ")).join("L")}Z`}
      fill="none"
      stroke="#ffb199"
      strokeWidth={1.1 * unit}
      strokeDasharray={`${5 * unit} ${3 * unit}`}
      opacity={0.85}
      pointerEvents="none"
    />
  );
}

/** The layout as the camera would see it: what differs from the picture when both are shown in turn is wrong. */
function Drawn(props: { table: Table; camera: Camera; balls: Places; size: Place }) {
  const { table, camera, balls, size } = props;
  const corners: Place[] = [
    [0, 0],
    [table.length, 0],
    [table.length, table.width],
    [0, table.width],
  ];
  const bed = corners.map(([x, y]) => project(camera, x, y, 0)).filter((at): at is Place => at !== null);
  const far = Object.entries(balls).sort(
    ([, a], [, b]) => ballPixels(camera, a, table.radius) - ballPixels(camera, b, table.radius),
  );
  return (
    <g data-testid="drawn" pointerEvents="none">
      <rect width={size[0]} height={size[1]} fill="#1b1a17" />
      <path d={`M${bed.map((at) => at.join(" ")).join("L")}Z`} fill="#2f6660" />
      {far.map(([ball, at]) => {
        const centre = project(camera, at[0], at[1], table.radius);
        if (!centre) return null;
        const r = ballPixels(camera, at, table.radius);
        return (
          <g key={ball} transform={`translate(${String(centre[0])} ${String(centre[1])})`}>
            <Ball ball={ball} radius={r} unit={size[0] / 620} valued={false} />
          </g>
        );
      })}
    </g>
  );
}

const LENS = 132;
const ZOOM = 4;

/** Four times the picture round the point that is being dragged, in the far corner. */
function Magnifier({ video, at, size }: { video: HTMLVideoElement | null; at: Place; size: Place }) {
  const draw = (canvas: HTMLCanvasElement | null) => {
    const pen = canvas?.getContext("2d");
    if (!pen || !video) return;
    const sx = video.videoWidth / size[0];
    const sy = video.videoHeight / size[1];
    const span = LENS / ZOOM;
    pen.fillStyle = "#000";
    pen.fillRect(0, 0, LENS, LENS);
    pen.drawImage(
      video,
      (at[0] - span / 2) * sx,
      (at[1] - span / 2) * sy,
      span * sx,
      span * sy,
      0,
      0,
      LENS,
      LENS,
    );
    pen.strokeStyle = "#ff8d66";
    pen.beginPath();
    pen.moveTo(LENS / 2, 0);
    pen.lineTo(LENS / 2, LENS);
    pen.moveTo(0, LENS / 2);
    pen.lineTo(LENS, LENS / 2);
    pen.stroke();
  };
  const side = at[0] > size[0] / 2 ? "left-2" : "right-2";
  return (
    <canvas
      ref={draw}
      width={LENS}
      height={LENS}
      className={`absolute top-2 ${side} border border-white/70`}
      aria-hidden
    />
  );
}
