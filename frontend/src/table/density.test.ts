import { describe, expect, it } from "vitest";

import kept from "../../../tests/draw/cloud.json";
import type { Place } from "../api/types";
import { regions, SHARES } from "./density";

/** A seeded normal draw, so that the test repeats. */
function* dice(seed: number): Generator<number> {
  let state = seed;
  for (;;) {
    let sum = 0;
    for (let n = 0; n < 12; n++) {
      state = (state * 1664525 + 1013904223) % 4294967296;
      sum += state / 4294967296;
    }
    yield sum - 6;
  }
}

describe("regions", () => {
  const draw = dice(7);
  const next = () => draw.next().value as number;
  const places = Array.from({ length: 4000 }, (): Place => [1.2 + 0.1 * next(), 0.6 + 0.1 * next()]);
  const found = regions(places, 2.54, 1.27);

  it("hold the shares that they say", () => {
    expect(found.map((region) => region.share)).toEqual([...SHARES]);
    for (const { share, cells, cell } of found) {
      const inside = places.filter(([x, y]) =>
        cells.some(([cx, cy]) => x >= cx && x < cx + cell && y >= cy && y < cy + cell),
      );
      expect(Math.abs(inside.length / places.length - share)).toBeLessThan(0.06);
    }
  });

  it("lie inside one another", () => {
    const sizes = found.map((region) => region.cells.length);
    expect(sizes).toEqual([...sizes].sort((one, other) => one - other));
  });

  it("are empty without a place", () => {
    expect(regions([], 2.54, 1.27).every((region) => region.cells.length === 0)).toBe(true);
  });

  it("are those that the server draws", () => {
    const drawn = regions(kept.places as Place[], 2.54, 1.27);
    drawn.forEach(({ cells, cell }, part) => {
      const ours = new Set(
        cells.map(([x, y]) => `${String(Math.round(x / cell))} ${String(Math.round(y / cell))}`),
      );
      const theirs = new Set((kept.cells[part] ?? []).map((at) => at.join(" ")));
      const unlike = [...ours, ...theirs].filter((at) => !ours.has(at) || !theirs.has(at));
      expect(unlike.length).toBeLessThan(0.02 * theirs.size); // of cells that are equally full either may be taken
    });
  });
});
