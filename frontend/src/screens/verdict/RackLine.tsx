/** A rack as a line of A's chance to win it, from shot to shot; the moment that turned it is marked. */
import type { Ledger, LedgerRack } from "../../api/types";
import { amount, lineOf } from "./model";

const WIDE = 300;
const HIGH = 56;
const EDGE = 4;

export function RackLine({
  rack,
  unit,
  words,
  current = null,
  className = "h-14",
  onEntry,
}: {
  rack: LedgerRack;
  unit: Ledger["unit"];
  words: string;
  current?: number | null;
  /** How high it is. */
  className?: string;
  onEntry?: (index: number) => void;
}) {
  const values = lineOf(rack, unit);
  const [low, high] = unit === "balls" ? [Math.min(0, ...values) - 1, Math.max(0, ...values) + 1] : [0, 1];
  const x = (at: number) => EDGE + (at / Math.max(1, values.length - 1)) * (WIDE - 2 * EDGE);
  const y = (value: number) => EDGE + (1 - (value - low) / (high - low)) * (HIGH - 2 * EDGE);
  const level = unit === "balls" ? 0 : 0.5;
  const turn = rack.turning_point;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      preserveAspectRatio="none"
      className={`w-full ${className}`}
      role="img"
      aria-label={words}
      data-testid="rack-line"
    >
      <path d={`M0 ${y(level)}H${WIDE}`} stroke="var(--color-base-300)" vectorEffect="non-scaling-stroke" />
      <path
        d={values.map((value, at) => `${at ? "L" : "M"}${x(at)} ${y(value)}`).join("")}
        fill="none"
        stroke="var(--color-base-content)"
        strokeWidth={1.5}
        vectorEffect="non-scaling-stroke"
      />
      {turn !== null && (
        <path
          d={`M${x(turn)} ${y(values[turn] ?? 0)}L${x(turn + 1)} ${y(values[turn + 1] ?? 0)}`}
          stroke="var(--color-primary)"
          strokeWidth={4}
          vectorEffect="non-scaling-stroke"
        />
      )}
      {current !== null && (
        <path
          d={`M${x(current)} 0V${HIGH}`}
          stroke="var(--color-secondary)"
          strokeWidth={1.5}
          strokeDasharray="3 2"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {onEntry &&
        rack.shots.map((entry, index) => (
          <rect
            key={index}
            x={x(index)}
            width={x(index + 1) - x(index)}
            height={HIGH}
            fill="transparent"
            className="cursor-pointer hover:fill-base-content/10"
            onClick={() => {
              onEntry(index);
            }}
          >
            <title>{`${index + 1}: ${entry.player} ${amount(entry.after - entry.before, unit)}`}</title>
          </rect>
        ))}
    </svg>
  );
}
