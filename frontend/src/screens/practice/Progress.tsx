/** Success over the days as a curve with its band, against what was expected of the hand. */
import * as Plot from "@observablehq/plot";
import { useEffect, useRef } from "react";

import type { Exercise } from "../../api/types";

const UNIX = 719_163; // days from the first of January of the year 1 to that of 1970
const dateOf = (day: number) => new Date((day - UNIX) * 86_400_000);

export function Progress({ of, chance }: { of: Exercise["players"][number]; chance: number | null }) {
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const points = of.curve.map((one) => ({
      day: dateOf(one.day),
      p: (one.p ?? 0) * 100,
      low: one.low * 100,
      high: one.high * 100,
    }));
    if (points.length === 0) return;
    frame.current?.replaceChildren(
      Plot.plot({
        width: frame.current.clientWidth,
        height: 180,
        style: { background: "transparent", color: "var(--color-base-content)", fontSize: "12px" },
        x: { type: "utc", label: null, ticks: 4 },
        y: { domain: [0, 100], grid: true, label: "per cent made" },
        marks: [
          Plot.areaY(points, {
            x: "day",
            y1: "low",
            y2: "high",
            fill: "var(--color-primary)",
            fillOpacity: 0.16,
          }),
          Plot.lineY(points, { x: "day", y: "p", stroke: "var(--color-primary)", strokeWidth: 2.5 }),
          ...(chance === null
            ? []
            : [Plot.ruleY([chance * 100], { stroke: "currentColor", strokeDasharray: "3 3" })]),
        ],
      }),
    );
  }, [of, chance]);
  if (of.curve.length === 0) return null;
  return (
    <>
      <div ref={frame} aria-hidden />
      <p className="sr-only">
        {of.days
          .map((one) => `${dateOf(one.day).toISOString().slice(0, 10)}: ${one.made} of ${one.n}`)
          .join("; ")}
      </p>
    </>
  );
}
