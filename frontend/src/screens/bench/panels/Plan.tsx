/** The table drawn to scale: balls to be moved, zones to be dragged by their crosses, pockets to be clicked. */
import { TableDrawing, planRatio } from "../../../table/TableDrawing";
import type { Actions } from "../actions";
import { Deeper } from "../choices/Deeper";
import { useBench } from "../model/state";
import { drawnOf, type PlanOf } from "../model/drawnPlan";
import type { Workbench } from "../model/useWorkbench";
import { BallTray } from "./BallTray";
import { Legend } from "./Legend";
import { Pane } from "./Pane";
import { PlanTools } from "./ToolBar";

type Props = {
  bench: PlanOf & Pick<Workbench, "choices" | "balls" | "foundShots">;
  actions: Actions;
};

export function Plan({ bench, actions }: Props) {
  const placing = useBench((state) => state.placing);
  const inking = useBench((state) => state.tool === "ink");
  const { game, entry, choosing } = bench;
  return (
    <Pane
      name="Plan"
      ratio={planRatio(game.table)}
      className="area-plan"
      tools={<PlanTools bench={bench} actions={actions} />}
      below={
        <>
          <div className="flex flex-wrap items-center justify-between border-t border-base-300">
            {choosing ? null : (
              <BallTray
                all={game.balls}
                entry={entry}
                balls={entry.found ? bench.shown : bench.balls}
                placing={placing}
                onPick={actions.startPlacingBall}
              />
            )}
            <Legend shapes={bench.shapes} />
          </div>
          {choosing && bench.choices.body && (
            <Deeper choices={bench.choices} discipline={game.header.discipline} />
          )}
        </>
      }
    >
      <TableDrawing
        {...drawnOf(bench)}
        onPoint={(at) => {
          actions.point(at, "drawing");
        }}
        onPen={inking ? actions.stroke : undefined}
        onDrag={(ball, at, done) => {
          actions.place(ball, at, done, "drawing");
        }}
        onBall={actions.chooseBall}
      />
    </Pane>
  );
}
