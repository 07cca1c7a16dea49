/** The table drawn to scale: balls to be moved, zones to be dragged by their crosses, pockets to be clicked. */
import { TableDrawing } from "../../../table/TableDrawing";
import type { Actions } from "../actions";
import { Deeper } from "../choices/Deeper";
import { useBench } from "../model/state";
import { handlesOf } from "../model/zones";
import type { Workbench } from "../model/useWorkbench";
import { BallTray } from "./BallTray";

type Props = {
  bench: Pick<
    Workbench,
    "game" | "shown" | "moment" | "entry" | "shapes" | "cloud" | "chosen" | "choosing" | "target" | "doubts" | "choices" | "balls"
  >;
  actions: Actions;
}; // prettier-ignore

export function Plan({ bench, actions }: Props) {
  const placing = useBench((state) => state.placing);
  const { game, entry, choosing, moment } = bench;
  return (
    <div className="sheet flex min-w-0 flex-col">
      <TableDrawing
        table={game.table}
        balls={bench.shown}
        ghostly={moment === "after" && !entry.found ? entry.before : {}}
        shapes={bench.shapes}
        cloud={bench.cloud}
        chosen={bench.chosen ?? (entry.found || choosing ? null : bench.target?.ball)}
        doubts={bench.doubts}
        handles={choosing ? [] : handlesOf(entry.document)}
        label={`Plan of the table, ${moment} the shot`}
        onPoint={(at) => {
          actions.point(at, "drawing");
        }}
        onDrag={(ball, at, done) => {
          actions.place(ball, at, done, "drawing");
        }}
        onBall={actions.chooseBall}
      />
      {choosing && bench.choices.body && (
        <Deeper choices={bench.choices} discipline={game.header.discipline} />
      )}
      {!choosing && (
        <BallTray
          all={game.balls}
          entry={entry}
          balls={entry.found ? bench.shown : bench.balls}
          placing={placing}
          onPick={actions.startPlacingBall}
        />
      )}
    </div>
  );
}
