/** The cue ball's stops as nested areas, the darkest holding half of them. */
import { useMemo } from "react";

import look from "../../../src/aretane/draw/look.json";
import type { Place, Table } from "../api/types";
import { regions } from "./density";

const STRENGTH = look.lines.cloud.shares; // percent of ink, inside to outside

export function Cloud({ places, table }: { places: Place[]; table: Table }) {
  const drawn = useMemo(() => regions(places, table.length, table.width), [places, table]);
  return (
    <g pointerEvents="none" data-testid="cloud">
      {drawn.map((region, index) => (
        <path
          key={region.share}
          fill={`color-mix(in oklab, var(--color-primary) ${STRENGTH[index] ?? 10}%, transparent)`}
          d={region.cells
            .map(
              ([x, y]) =>
                `M${x * 1000} ${(table.width - y) * 1000}h${region.cell * 1000}v${-region.cell * 1000}h${-region.cell * 1000}z`,
            )
            .join("")}
        />
      ))}
    </g>
  );
}
