/** Where the tip meets the cue ball, as the player sees it: drag, or the arrow keys. */
import { useRef, useState } from "react";

const STEP = 0.05;
const round = (value: number) => Math.round(value * 100) / 100 + 0;

interface Props {
  side: number;
  height: number;
  limit: number;
  onChange: (side: number, height: number) => void;
}

export function TipFace({ side, height, limit, onChange }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState(false);
  const set = (s: number, h: number) => {
    const far = Math.max(1, Math.hypot(s, h) / 0.95);
    onChange(round(s / far), round(h / far));
  };
  const point = (event: React.PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return;
    set(
      (((event.clientX - box.left) / box.width) * 2 - 1) * 1.08,
      (1 - ((event.clientY - box.top) / box.height) * 2) * 1.08,
    );
  };
  const key = (event: React.KeyboardEvent) => {
    const [s, h] =
      { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key] ?? [];
    if (event.key === "Home") set(0, 0);
    else if (s !== undefined && h !== undefined) set(side + s * STEP, height + h * STEP);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const beyond = Math.hypot(side, height) > limit;
  return (
    <svg
      ref={svg}
      viewBox="-1.08 -1.08 2.16 2.16"
      className="w-36 shrink-0 touch-none cursor-crosshair"
      tabIndex={0}
      role="slider"
      aria-label="Tip on the cue ball"
      aria-valuenow={side}
      aria-valuetext={tipWords(side, height)}
      data-testid="tip"
      onKeyDown={key}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setHeld(true);
        point(event);
      }}
      onPointerMove={(event) => {
        if (held) point(event);
      }}
      onPointerUp={() => {
        setHeld(false);
      }}
    >
      <circle r={1} fill="#fffdf6" stroke="var(--color-base-content)" strokeWidth={0.02} />
      <g stroke="#22303c" strokeWidth={0.012} fill="none">
        <path d="M-1 0H1M0 -1V1" opacity={0.35} />
        <circle r={limit} strokeDasharray="0.05 0.04" />
        <circle r={limit / 2} opacity={0.3} />
        <path d="M-0.06 -0.4H0.06" strokeWidth={0.03} />
      </g>
      <circle
        cx={side}
        cy={-height}
        r={0.11}
        fill={beyond ? "#96262c" : "#a8402a"}
        stroke="#fffdf6"
        strokeWidth={0.03}
      />
    </svg>
  );
}

/** "centre", "0.20 above, 0.10 left": in fractions of the radius. */
export function tipWords(side: number, height: number): string {
  const words = [
    height ? `${Math.abs(height).toFixed(2)} ${height > 0 ? "above" : "below"}` : "",
    side ? `${Math.abs(side).toFixed(2)} ${side > 0 ? "right" : "left"}` : "",
  ].filter(Boolean);
  return words.length ? words.join(", ") : "centre";
}
