/** What a break shot comes to from its best place, and the least cut from which it opens what it goes into. */
import type { PlanBody } from "../../../api/types";

export function BreakShotWords({ of, what }: { of: PlanBody["break_shots"][number]; what: string }) {
  return (
    <>
      {of.least_angle_deg === null
        ? `${what} does not open`
        : `opens from a cut of ${String(Math.round(of.least_angle_deg))}° on`}
      ; from its best place potted {Math.round(100 * of.pot)}&nbsp;%,{" "}
      {of.opened.toFixed(of.into.length ? 1 : 0)} balls driven out, next pot {Math.round(100 * of.next_pot)}
      &nbsp;%, cue ball lost {Math.round(100 * of.scratch)} %{" "}
      <span className="text-[11px] opacity-75">n {of.n}</span>
    </>
  );
}
