/** The work bench: picture, plan, sentence and strip together, driven from the keyboard. */
import { useEffect, useEffectEvent } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";

import { useLedger } from "../../api/ledger";
import { useChange, useGame, useReverse } from "../../api/queries";
import type { Game } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { useSettings } from "../../settings";
import { useActions } from "./actions";
import { ChoicesPanel } from "./choices/ChoicesPanel";
import { FoundStrip } from "./found/FoundStrip";
import { Naming } from "./found/Naming";
import { useKeys } from "./keys/useKeys";
import { say, useBench } from "./model/state";
import { usePlanWindow } from "./model/planWindow";
import { useWatching } from "./model/useWatching";
import { useWorkbench, type Workbench } from "./model/useWorkbench";
import { Board } from "./panels/Board";
import { EntryPanel } from "./panels/EntryPanel";
import { Film } from "./panels/Film";
import { OpenDialog } from "./panels/OpenDialog";
import { Plan } from "./panels/Plan";
import { ReadingPanel } from "./panels/ReadingPanel";
import { Said, Trouble } from "./panels/Said";
import { Score } from "./panels/Score";
import { Strip } from "./panels/Strip";
import { Splitter } from "./panels/Splitter";
import { BenchTools, verdictOf } from "./panels/ToolBar";
import { Visits } from "./panels/Visits";

export function Bench() {
  const { id = "" } = useParams();
  const query = useGame(id);
  if (query.data) return <OpenBench game={query.data} />;
  return <div className="p-6">{query.error ? <Problem of={query.error} /> : "Opening the match …"}</div>;
}

const NO_DIFFERENCE: string[] = [];

function OpenBench({ game }: { game: Game }) {
  const [, setParams] = useSearchParams();
  const navigate = useNavigate();
  const change = useChange(game);
  const reverse = useReverse(game.id, game.last_change);
  const bench = useWorkbench(game);
  const actions = useActions(bench, {
    change,
    reverse: (direction) => {
      reverse.mutate(direction, {
        onSuccess: ({ reversed }) => {
          if (reversed) say(`${direction === "undo" ? "Taken back" : "Done again"}: ${reversed}.`);
        },
      });
    },
    show: ({ shot, rack }) => {
      const where = new URLSearchParams(shot ? { shot } : rack !== undefined ? { rack: String(rack) } : {});
      useBench.setState({ going: where.toString() });
      setParams(where, { replace: true });
    },
    verdict: () => void navigate(verdictOf(game.id, bench.found?.shot.id)),
    practise: () => {
      if (bench.found?.shot.id) void navigate(`/practice/new?game=${game.id}&shot=${bench.found.shot.id}`);
    },
  });
  useKeys(bench, actions);
  useStillPicture(bench);
  useWatching(bench, actions.show);
  usePlanWindow(bench, actions);
  const { foundShots, entry, choosing } = bench;
  const { share, view } = useSettings();
  const judged = useLedger(game, "coarse", false).data;
  const ledger = judged?.current ? judged.body : undefined;
  const room = { "--film": `${String(share)}fr`, "--plan": `${String(1 - share)}fr` } as React.CSSProperties;
  return (
    <div className={`bench ${choosing ? "bench-long" : ""}`}>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1 px-3 py-1">
        <Score game={game} />
        <BenchTools bench={bench} actions={actions} />
      </div>
      <div className="flex flex-wrap justify-between">
        <Said problem={reverse.error ?? foundShots.error ?? (bench.marks ? bench.camera.error : null)} />
        <Board bench={bench} />
      </div>
      <Trouble game={game} rack={bench.rackIndex} />
      <div className="bench-middle" data-view={choosing ? "choices" : view} style={room}>
        {!choosing && view !== "plan" && <Film bench={bench} actions={actions} />}
        {!choosing && view === "both" && <Splitter />}
        {(choosing || view !== "picture") && <Plan bench={bench} actions={actions} />}
        {choosing && <ChoicesPanel bench={bench} actions={actions} />}
        {!choosing && <Measured bench={bench} />}
      </div>
      <div className="area-strip">
        <Visits
          game={game}
          onShot={(shot) => {
            actions.goTo({ shot });
          }}
        />
        <Strip
          game={game}
          rack={bench.rackIndex}
          shot={bench.found?.shot.id ?? null}
          inserting={bench.insert}
          goTo={actions.goTo}
          ledger={ledger}
        />
        <FoundStrip bench={bench} actions={actions} />
      </div>
      <div className="area-entry space-y-2 px-3 py-2">
        {entry.found && <Naming bench={bench} />}
        <EntryPanel
          game={game}
          entry={entry}
          target={bench.target}
          why={foundShots.shot?.proposal?.why ?? null}
          differs={differsOf(bench)}
          actions={actions}
        />
      </div>
      <OpenDialog bench={bench} actions={actions} />
    </div>
  );
}

/** What the recording tells otherwise of the entry that is looked at. */
function differsOf({ found, foundShots }: Workbench): string[] {
  return foundShots.shots.find((one) => one.logged === found?.shot.id)?.differs ?? NO_DIFFERENCE;
}

function Measured({ bench }: { bench: Workbench }) {
  const shot = bench.found?.shot;
  return (
    <ReadingPanel
      game={bench.game}
      drawings={bench.drawings}
      measured={bench.measured}
      reading={bench.reading.data}
      shot={bench.shot}
      offered={bench.target?.offered ?? false}
      error={shot?.error ?? null}
      others={shot?.object_errors ?? {}}
      problem={bench.reading.error}
    />
  );
}

/** A bench that is opened at a shot shows its still picture. */
function useStillPicture({ ready, found, document, player }: Workbench) {
  const onReady = useEffectEvent(() => {
    const start = found ? document.time?.start : null;
    if (start != null) player.seek(start);
  });
  useEffect(() => {
    if (ready) onReady();
  }, [ready]);
}
