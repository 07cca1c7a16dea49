/** The work bench: picture, plan, reading, strip and entry together, driven from the keyboard. */
import { useEffect, useEffectEvent } from "react";
import { useParams, useSearchParams } from "react-router";

import { useOutbox } from "../../api/outbox";
import { useChange, useGame, useReverse } from "../../api/queries";
import type { Game } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { Dialog } from "../../parts/Dialog";
import { Problem } from "../../parts/Problem";
import { TableDrawing } from "../../table/TableDrawing";
import { Recordings } from "../recordings/Recordings";
import { BallTray } from "./BallTray";
import { Board } from "./Board";
import { ClashDialog, DiamondDialog, KeysDialog } from "./Dialogs";
import { EntryPanel } from "./EntryPanel";
import { FoundStrip } from "./found/FoundStrip";
import { Naming } from "./found/Naming";
import { OverruleDialog } from "./Overrule";
import { Picture } from "./Picture";
import { RackNotes } from "./RackNotes";
import { ReadingPanel } from "./ReadingPanel";
import { Score } from "./Score";
import { Strip } from "./Strip";
import { ToolBar } from "./ToolBar";
import { Transport } from "./Transport";
import { Visits } from "./Visits";
import { actionsOf, type Actions } from "./actions";
import { ChoicesPanel } from "./choices/ChoicesPanel";
import { Deeper } from "./choices/Deeper";
import { open, useBench } from "./state";
import { useKeys } from "./useKeys";
import { useWorkbench, type Workbench } from "./useWorkbench";

export function Bench() {
  const { id = "" } = useParams();
  const query = useGame(id);
  if (query.data) return <OpenBench game={query.data} />;
  return <div className="p-6">{query.error ? <Problem of={query.error} /> : "Opening the match …"}</div>;
}

function OpenBench({ game }: { game: Game }) {
  const [, setParams] = useSearchParams();
  const change = useChange(game);
  const reverse = useReverse(game.id, game.last_change);
  const bench = useWorkbench(game);
  const actions = actionsOf(bench, {
    change,
    reverse: (direction) => {
      reverse.mutate(direction);
    },
    show: ({ shot, rack }) => {
      setParams(shot ? { shot } : rack !== undefined ? { rack: String(rack) } : {}, { replace: true });
    },
  });
  useKeys(bench, actions);
  useStillPicture(bench);
  const { found } = bench;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1 px-3 py-1.5">
        <Score game={game} />
        <ToolBar bench={bench} actions={actions} />
      </div>
      <div className="flex flex-wrap justify-between">
        <Said
          problem={reverse.error ?? bench.foundShots.error ?? (bench.marks ? bench.camera.error : null)}
        />
        <Board bench={bench} />
      </div>
      <Trouble game={game} rack={bench.rackIndex} />
      <div
        className={`grid min-h-0 items-start gap-2 px-3 ${bench.choosing ? "lg:grid-cols-[minmax(0,1fr)_410px]" : bench.recording ? "lg:grid-cols-2 xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_236px]" : "lg:grid-cols-2 xl:grid-cols-[minmax(0,2fr)_minmax(0,3fr)_236px]"}`}
      >
        {!bench.choosing && <Film bench={bench} actions={actions} />}
        <Plan bench={bench} actions={actions} />
        {bench.choosing && <ChoicesPanel bench={bench} actions={actions} />}
        {!bench.foundShots.shot && !bench.choosing && (
          <ReadingPanel
            game={game}
            reading={bench.reading.data}
            shot={bench.shot}
            offered={bench.target?.offered ?? false}
            error={found?.shot.error ?? null}
            others={found?.shot.object_errors ?? {}}
            problem={bench.reading.error}
          />
        )}
      </div>
      <div className="mt-2">
        <Visits
          game={game}
          onShot={(shot) => {
            actions.goTo({ shot });
          }}
        />
        <Strip
          game={game}
          rack={bench.rackIndex}
          shot={found?.shot.id ?? null}
          onRack={(rack) => {
            const one = game.racks[rack]?.shots[0];
            actions.goTo(one ? { shot: one.id } : { rack });
          }}
          onShot={(shot) => {
            actions.goTo(shot ? { shot } : {});
          }}
        />
      </div>
      <FoundStrip bench={bench} actions={actions} />
      <div className="p-3">
        {bench.foundShots.shot ? <Naming bench={bench} /> : <EntryPanel bench={bench} actions={actions} />}
      </div>
      <OpenDialog bench={bench} actions={actions} />
    </div>
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

function Film({ bench, actions }: { bench: Workbench; actions: Actions }) {
  const { tool, looping, flicker } = useBench();
  const { recording, linked } = bench;
  if (!recording)
    return (
      <div className="sheet flex h-full max-h-[480px] min-h-48 min-w-0 flex-col items-center justify-center gap-3 overflow-y-auto p-4 text-center">
        <RackNotes
          game={bench.game}
          rack={bench.rackIndex}
          onShot={(shot) => {
            actions.goTo({ shot });
          }}
        />
        <p>
          {linked
            ? `The recording “${linked.name ?? "of this match"}” is not on this machine.`
            : "No recording is linked. Everything can be logged on the plan alone."}
        </p>
        <button
          className="btn btn-sm"
          onClick={() => {
            open("recordings");
          }}
        >
          Choose a recording
        </button>
      </div>
    );
  if (recording.converted !== null || recording.problem)
    return (
      <div className="sheet flex min-h-48 min-w-0 flex-col items-center justify-center gap-3 p-4 text-center">
        <p>
          {recording.problem ??
            `Browsers cannot play ${recording.probe.codec}; this recording is being converted. Logging on the plan goes on.`}
        </p>
        {!recording.problem && (
          <progress
            className="progress progress-primary w-48"
            value={recording.converted ?? 0}
            max={1}
            aria-label="Converted"
          />
        )}
      </div>
    );
  return (
    <div className="sheet min-w-0">
      <Picture
        recording={recording}
        video={bench.video}
        table={bench.game.table}
        camera={bench.camera.data}
        balls={bench.shown}
        shapes={bench.shapes}
        chosen={bench.chosen ?? (bench.foundShots.shot ? null : (bench.target?.ball ?? null))}
        doubts={bench.doubts}
        drawn={flicker}
        marks={tool === "mark" ? (bench.marks ?? {}) : null}
        placing={tool !== "look"}
        onMarks={(marks, done) => {
          if (done) actions.saveMarks(marks);
          else useBench.setState({ marks });
        }}
        onPoint={(at) => {
          actions.point(at, "picture");
        }}
        onDrag={(ball, at, done) => {
          actions.place(ball, at, done, "picture");
        }}
        onBall={actions.chooseBall}
      />
      <Transport
        player={bench.player}
        recording={recording}
        document={bench.document}
        looping={looping}
        onLoop={() => {
          useBench.setState({ looping: !looping });
        }}
        onMark={actions.markTime}
      />
    </div>
  );
}

function Plan({ bench, actions }: { bench: Workbench; actions: Actions }) {
  const placing = useBench((state) => state.placing);
  return (
    <div className="sheet flex min-w-0 flex-col">
      <TableDrawing
        table={bench.game.table}
        balls={bench.shown}
        ghostly={bench.moment === "after" && !bench.foundShots.shot ? bench.entry.before : {}}
        shapes={bench.shapes}
        cloud={bench.cloud}
        chosen={bench.chosen ?? (bench.foundShots.shot || bench.choosing ? null : bench.target?.ball)}
        doubts={bench.doubts}
        label={`Plan of the table, ${bench.moment} the shot`}
        onPoint={(at) => {
          actions.point(at, "drawing");
        }}
        onDrag={(ball, at, done) => {
          actions.place(ball, at, done, "drawing");
        }}
        onBall={actions.chooseBall}
      />
      {bench.choosing && bench.choices.body && (
        <Deeper choices={bench.choices} discipline={bench.game.header.discipline} />
      )}
      {!bench.foundShots.shot && !bench.choosing && (
        <BallTray
          all={bench.game.balls}
          entry={bench.entry}
          balls={bench.balls}
          placing={placing}
          onPick={(ball) => {
            useBench.setState({ tool: "place", placing: ball });
          }}
        />
      )}
    </div>
  );
}

/** What the bench has to say: a problem, an answer to the last action, or what the tool waits for. */
function Said({ problem }: { problem: Error | null }) {
  const { said, tool, placing } = useBench();
  const next = placing === "cue" ? "cue ball" : `${placing} ball`;
  const waiting = placing ? `Click the ${next} in the picture or on the plan.` : "Every ball is placed.";
  return (
    <p
      role="status"
      aria-live="polite"
      className="min-h-5 px-3 text-[12px] text-secondary"
      data-testid="said"
    >
      {problem ? (
        <span className="text-error">{problem.message}</span>
      ) : (
        (said ?? (tool === "place" ? waiting : ""))
      )}
    </p>
  );
}

function Trouble({ game, rack }: { game: Game; rack: number }) {
  const trouble = game.trouble.find((one) => one.rack === rack);
  if (!trouble) return null;
  return (
    <p role="alert" className="mx-3 mb-1 border-l-2 border-error pl-2 text-error first-letter:uppercase">
      {disciplineOf(game.header.discipline).rack} {trouble.rack + 1}, shot {trouble.shot + 1} cannot have
      happened like this: {trouble.message}. Correct it, or overrule it with a note.
    </p>
  );
}

function OpenDialog({ bench, actions }: { bench: Workbench; actions: Actions }) {
  const { dialog, placing, chosen } = useBench();
  const ball = placing ?? chosen ?? "cue";
  const clash = useOutbox((state) => state.clash);
  const close = () => {
    open(null);
  };
  if (clash?.game === bench.game.id) return <ClashDialog clash={clash} />;
  switch (dialog) {
    case "keys":
      return <KeysDialog discipline={disciplineOf(bench.game.header.discipline)} onClose={close} />;
    case "overrule":
      return (
        <OverruleDialog
          game={bench.game}
          document={bench.document}
          onClose={close}
          onDone={(patch) => {
            actions.set(patch, "overruled");
            close();
          }}
        />
      );
    case "recordings":
      return (
        <Dialog title="Choose a recording" onClose={close} wide>
          <Recordings onChoose={actions.link} />
        </Dialog>
      );
    case "diamonds":
      return (
        <DiamondDialog
          game={bench.game}
          ball={ball}
          onClose={close}
          onPlace={(at) => {
            close();
            actions.place(ball, at, true, "drawing");
          }}
        />
      );
    case null:
      return null;
  }
}
