/** What is drawn on the plan, on the bench and in a window of its own. */
import type { Place, Places, Table } from "../../../api/types";
import type { Shape } from "../../../table/shapes";
import type { Workbench } from "./useWorkbench";
import { handlesOf } from "./zones";

export interface DrawnPlan {
  table: Table;
  balls: Places;
  ghostly: Places;
  shapes: Shape[];
  cloud: Place[] | undefined;
  chosen: string | null;
  doubts: string[];
  handles: { id: string; place: Place }[];
  label: string;
}

export type PlanOf = Pick<
  Workbench,
  "game" | "shown" | "moment" | "entry" | "shapes" | "cloud" | "chosen" | "choosing" | "target" | "doubts"
>;

const NOTHING: Places = {};

export function drawnOf(bench: PlanOf): DrawnPlan {
  const { game, moment, entry, choosing } = bench;
  return {
    table: game.table,
    balls: bench.shown,
    ghostly: moment === "after" && !entry.found ? entry.before : NOTHING,
    shapes: bench.shapes,
    cloud: bench.cloud,
    chosen: bench.chosen ?? (entry.found || choosing ? null : (bench.target?.ball ?? null)),
    doubts: bench.doubts,
    handles: choosing ? [] : handlesOf(entry.document),
    label: `Plan of the table, ${moment} the shot`,
  };
}
