/** Position errors about the target: up is long, left is left, as the cue ball runs. */
import type { Figures } from "../../api/types";

type Point = Figures["errors"][number];

const RINGS = [0.1, 0.2, 0.4];

interface Props {
  errors: Point[];
  /** How many there are: of too many the newest are drawn. */
  n: number;
  onPick: (shot: string) => void;
}

export function Scatter({ errors, n, onPick }: Props) {
  const reach =
    Math.max(0.25, ...errors.map(({ error }) => Math.max(Math.abs(error.along), Math.abs(error.across)))) *
    1.12;
  const scale = 100 / reach;
  const at = ({ error }: Point) => ({ x: -error.across * scale, y: -error.along * scale });
  const inside = errors.filter(({ error }) => error.distance === 0).length;
  return (
    <figure>
      <svg
        viewBox="-118 -106 236 212"
        className="max-h-80 w-full"
        role="group"
        aria-label={`${errors.length} position errors, ${inside} of them inside the zone`}
        data-testid="scatter"
      >
        <g fill="none" stroke="var(--color-base-content)" strokeWidth={0.5}>
          <path d="M-104 0H104M0 -100V100" opacity={0.5} />
          {RINGS.filter((ring) => ring < reach).map((ring) => (
            <circle key={ring} r={ring * scale} opacity={0.25} strokeDasharray="2 2" />
          ))}
        </g>
        <g fontSize={6} fill="var(--color-base-content)" opacity={0.75}>
          <text y={-101} textAnchor="middle">
            long
          </text>
          <text y={106} textAnchor="middle">
            short
          </text>
          <text x={-117} y={2}>
            left
          </text>
          <text x={117} y={2} textAnchor="end">
            right
          </text>
          {RINGS.filter((ring) => ring < reach).map((ring) => (
            <text key={ring} x={1} y={-ring * scale - 1}>
              {ring * 100} cm
            </text>
          ))}
        </g>
        {errors.map((one) => {
          const { x, y } = at(one);
          return (
            <g
              key={one.shot}
              transform={`translate(${x} ${y})`}
              className="cursor-pointer"
              onClick={() => {
                onPick(one.shot);
              }}
              role="button"
              tabIndex={0}
              onKeyDown={(event) => {
                if (event.key === "Enter") onPick(one.shot);
              }}
              aria-label={`${(one.error.distance * 100).toFixed(0)} cm off`}
            >
              <circle r={6} fill="transparent" />
              {one.error.assumed ? (
                <path d="M-2.4 0H2.4M0 -2.4V2.4" stroke="var(--color-secondary)" strokeWidth={1.1} />
              ) : (
                <circle
                  r={2.4}
                  fill={one.error.distance === 0 ? "var(--color-base-100)" : "var(--color-primary)"}
                  stroke="var(--color-primary)"
                  strokeWidth={0.8}
                />
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="text-[12px] opacity-80">
        {n > errors.length ? `The newest ${errors.length} of ${n}` : errors.length} errors, {inside} inside
        the zone (hollow). Crosses: no last leg was logged, direction assumed from the contact.
      </figcaption>
    </figure>
  );
}
