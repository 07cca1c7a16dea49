/** A plan drawn on the table: for each ball where the cue ball must be, the ball's way, and its turn. */
import type { Places, PlanBody, Table } from "../../../api/types";
import { zoneShapes, type Shape } from "../../../table/shapes";

export function orderShapes(plan: PlanBody, balls: Places, pockets: Table["pockets"]): Shape[] {
  return plan.order.flatMap((entry, at) => {
    const ball = balls[entry.ball];
    const mouth = pockets.find((pocket) => pocket.name === entry.pocket)?.mouth;
    const drawn: Shape[] = at > 0 ? zoneShapes([{ ...entry.zone, grade: "acceptable" }]) : [];
    if (!ball) return drawn;
    drawn.push({ line: "aim", points: [entry.place, ball], label: String(at + 1) });
    if (mouth) drawn.push({ line: "pocket", points: [ball, mouth] });
    return drawn;
  });
}
