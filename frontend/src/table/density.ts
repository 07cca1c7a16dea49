/** Where many stops lie: the smallest areas that hold half, four fifths and nineteen twentieths of them. */
import type { Place } from "../api/types";

export const SHARES = [0.5, 0.8, 0.95] as const;
const CELL = 0.018; // metres
const KERNEL = [0.06, 0.24, 0.4, 0.24, 0.06];

export interface Region {
  share: number;
  cells: Place[]; // lower right corners, in metres
  cell: number;
}

export function regions(places: Place[], length: number, width: number): Region[] {
  const [nx, ny] = [Math.ceil(length / CELL), Math.ceil(width / CELL)];
  let grid = new Float64Array(nx * ny);
  for (const [x, y] of places) {
    const [i, j] = [Math.floor(x / CELL), Math.floor(y / CELL)];
    if (i >= 0 && i < nx && j >= 0 && j < ny) grid[i * ny + j] = (grid[i * ny + j] ?? 0) + 1;
  }
  for (const step of [ny, 1, ny, 1]) grid = smoothed(grid, nx, ny, step);
  const order = [...grid.keys()].filter((cell) => (grid[cell] ?? 0) > 0);
  order.sort((one, other) => (grid[other] ?? 0) - (grid[one] ?? 0));
  const total = grid.reduce((sum, value) => sum + value, 0);
  return SHARES.map((share) => {
    let held = 0;
    const cells: Place[] = [];
    for (const cell of order) {
      if (held >= share * total) break;
      held += grid[cell] ?? 0;
      cells.push([Math.floor(cell / ny) * CELL, (cell % ny) * CELL]);
    }
    return { share, cells, cell: CELL };
  });
}

/** Each cell shared out among its neighbours along one axis; what would fall off the edge stays. */
function smoothed(grid: Float64Array, nx: number, ny: number, step: number): Float64Array<ArrayBuffer> {
  const out = new Float64Array(nx * ny);
  const count = step === 1 ? ny : nx;
  grid.forEach((value, cell) => {
    if (!value) return;
    const at = step === 1 ? cell % ny : Math.floor(cell / ny);
    KERNEL.forEach((weight, index) => {
      const to = Math.min(count - 1, Math.max(0, at + index - 2));
      const target = cell + (to - at) * step;
      out[target] = (out[target] ?? 0) + weight * value;
    });
  });
  return out;
}
