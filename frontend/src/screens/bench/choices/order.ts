/** A plan drawn on the table: for each ball where the cue ball must be, the ball's way, and its turn. */
import type { Places, PlanBody, Table } from "../../../api/types";
import { zoneShapes, type Shape } from "../../../table/shapes";

const DRAWN = 8; // balls: more cannot be told apart

export function orderShapes(plan: PlanBody, balls: Places, pockets: Table["pockets"]): Shape[] {
  return plan.order.slice(0, DRAWN).flatMap((entry, at) => {
    const ball = entry.stroke ? balls[entry.ball] : undefined; // one that waits for its cluster has no way yet
    const mouth = pockets.find((pocket) => pocket.name === entry.pocket)?.mouth;
    if (!ball) return [];
    const drawn: Shape[] = at > 0 ? zoneShapes([{ ...entry.zone, grade: "acceptable" }]) : [];
    drawn.push({ line: "aim", points: [entry.place, ball], label: String(at + 1) });
    if (mouth) drawn.push({ line: "pocket", points: [ball, mouth] });
    return drawn;
  });
}
