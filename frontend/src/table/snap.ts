/** Balls cannot stand in one another or off the table: they snap to touching or to the rail, and say so. */
import type { Place, Places, Table } from "../api/types";

export interface Snapped {
  place: Place;
  said: string | null;
}

/** The nearest possible place for `ball`, and what was done to get there. */
export function snap(table: Table, balls: Places, ball: string, wanted: Place): Snapped {
  const radius = ball === "cue" ? table.cue_radius : table.radius;
  const rail = toRail(table, wanted, radius);
  let place = rail;
  let said = far(rail, wanted) ? "Against the rail." : null;
  for (let turn = 0; turn < 8; turn++) {
    const other = overlapping(table, balls, ball, place, radius);
    if (!other) return { place, said };
    place = toRail(table, apart(table, balls[other] ?? place, place, radius, other), radius);
    said = `Touching the ${other === "cue" ? "cue ball" : other}.`;
  }
  return { place: balls[ball] ?? place, said: "There is no room for a ball there." };
}

function toRail(table: Table, [x, y]: Place, radius: number): Place {
  if (table.pockets.some((pocket) => inJaws(pocket, [x, y], radius))) return [x, y];
  return [clamp(x, radius, table.length - radius), clamp(y, radius, table.width - radius)];
}

function inJaws(pocket: Table["pockets"][number], place: Place, radius: number): boolean {
  const dx = place[0] - pocket.mouth[0];
  const dy = place[1] - pocket.mouth[1];
  const along = dx * pocket.axis[0] + dy * pocket.axis[1];
  const across = Math.abs(dx * pocket.axis[1] - dy * pocket.axis[0]);
  const shelf = Math.hypot(pocket.drop[0] - pocket.mouth[0], pocket.drop[1] - pocket.mouth[1]);
  const clear = pocket.tips.every((tip) => Math.hypot(place[0] - tip[0], place[1] - tip[1]) >= radius);
  return along >= -radius && along <= shelf && across < pocket.width / 2 && clear;
}

function overlapping(
  table: Table,
  balls: Places,
  ball: string,
  place: Place,
  radius: number,
): string | undefined {
  return Object.keys(balls).find((other) => {
    const at = balls[other];
    if (other === ball || !at) return false;
    const reach = radius + (other === "cue" ? table.cue_radius : table.radius);
    return Math.hypot(at[0] - place[0], at[1] - place[1]) < reach - 1e-6;
  });
}

function apart(table: Table, fixed: Place, place: Place, radius: number, other: string): Place {
  const reach = radius + (other === "cue" ? table.cue_radius : table.radius) + 2e-5;
  const away = Math.hypot(place[0] - fixed[0], place[1] - fixed[1]);
  const [ux, uy] = away > 1e-9 ? [(place[0] - fixed[0]) / away, (place[1] - fixed[1]) / away] : [1, 0];
  return [fixed[0] + reach * ux, fixed[1] + reach * uy];
}

const far = (one: Place, other: Place) => Math.hypot(one[0] - other[0], one[1] - other[1]) > 1e-6;
const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

/** Tenths of a millimetre are finer than anything that is measured. */
export const rounded = ([x, y]: Place): Place => [Math.round(x * 1e5) / 1e5, Math.round(y * 1e5) / 1e5];
