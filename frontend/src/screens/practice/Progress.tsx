/** Success over the days as a curve with its band, against what was expected of the hand. */
import * as Plot from "@observablehq/plot";
import { useEffect, useRef } from "react";

import type { Exercise } from "../../api/types";
import { curvePlot, dateOf } from "../../parts/curve";

export function Progress({ of, chance }: { of: Exercise["players"][number]; chance: number | null }) {
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (of.curve.length === 0 || !frame.current) return;
    const under =
      chance === null ? [] : [Plot.ruleY([chance * 100], { stroke: "currentColor", strokeDasharray: "3 3" })];
    const width = frame.current.clientWidth;
    frame.current.replaceChildren(
      curvePlot([of.curve], { width, height: 180, label: "per cent made", under }),
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
