/** The bench's tools as buttons, each with its key, for hands that are on the mouse or a tablet: of the bench, of the
 * picture, of the plan. */
import { Columns2, Expand, Redo2, Undo2 } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";

import { KeyChip as Tool } from "../../../parts/Chips";
import { useSettings } from "../../../settings";
import { INKS, KINDS } from "../../../table/ink";
import type { Actions } from "../actions";
import { useAsked } from "../choices/state";
import { open, useBench } from "../model/state";
import { nextView, wholeScreen } from "../model/views";
import type { Workbench } from "../model/useWorkbench";

interface Props<K extends keyof Workbench> {
  bench: Pick<Workbench, K>;
  actions: Actions;
}

export function BenchTools({ bench, actions }: Props<"recording" | "choosing" | "found" | "game">) {
  const watching = useBench((state) => state.watching !== null);
  const view = useSettings((state) => state.view);
  return (
    <div role="toolbar" aria-label="Tools" className="tools ml-auto">
      {bench.recording && <Tool name="watch" hint=";" on={watching} onClick={actions.watch} />}
      <Tool
        name="choices"
        hint="⇧C"
        on={bench.choosing}
        onClick={() => {
          useAsked.setState({ open: !bench.choosing, option: null, ball: null, drawing: null });
        }}
      />
      <Tool name="verdict" hint="⇧J" onClick={actions.verdict} />
      {bench.found && (
        <Link className="chip" to={`/lab?match=${bench.game.id}&shot=${bench.found.shot.id}`}>
          simulate
        </Link>
      )}
      <Sign
        name="Undo"
        hint="u"
        onClick={() => {
          actions.turn("undo");
        }}
      >
        <Undo2 size={15} />
      </Sign>
      <Sign
        name="Redo"
        hint="Shift+U"
        onClick={() => {
          actions.turn("redo");
        }}
      >
        <Redo2 size={15} />
      </Sign>
      <Sign
        name={view === "both" ? "Picture or plan alone" : `The ${view} alone`}
        hint="="
        onClick={nextView}
      >
        <Columns2 size={15} />
      </Sign>
      <Sign name="The whole screen" hint="*" onClick={wholeScreen}>
        <Expand size={15} />
      </Sign>
      <Tool
        name="commands"
        hint="/"
        onClick={() => {
          open("commands");
        }}
      />
      <Tool
        name="keys"
        hint="?"
        onClick={() => {
          open("keys");
        }}
      />
    </div>
  );
}

/** The verdict, opened at a shot. */
export const verdictOf = (game: string, shot: string | undefined) =>
  `/match/${game}/verdict${shot ? `?moment=${shot}` : ""}`;

function Sign(props: { name: string; hint: string; onClick: () => void; children: ReactNode }) {
  return (
    <button
      className="btn btn-ghost btn-xs btn-square"
      aria-label={props.name}
      title={`${props.name} (${props.hint})`}
      onClick={props.onClick}
    >
      {props.children}
    </button>
  );
}

export function FilmTools({ bench, actions }: Props<"marks" | "camera" | "marked" | "foundShots">) {
  const marking = useBench((state) => state.tool === "mark");
  const flicker = useBench((state) => state.flicker);
  const running = bench.foundShots.reading?.state === "running";
  return (
    <div role="toolbar" aria-label="Picture's tools" className="tools">
      <button className="chip" aria-pressed={marking} onClick={actions.mark}>
        {marking ? "done marking" : "mark the table"}
      </button>
      {marking && <MarkingTools bench={bench} actions={actions} />}
      {!marking && bench.marks && (
        <>
          <Tool name="read balls" hint="⇧R" onClick={actions.readStill} />
          <Tool name="drawn" hint="⇧D" on={flicker} onClick={actions.flicker} />
          {!running && <Tool name="find shots" onClick={actions.readRecording} />}
        </>
      )}
    </div>
  );
}

function MarkingTools({ bench, actions }: Props<"marks" | "camera" | "marked">) {
  const camera = bench.camera.data;
  return (
    <>
      <Tool
        name="suggest"
        onClick={() => {
          actions.suggestMarks(false);
        }}
      />
      <Tool
        name="onto edges"
        onClick={() => {
          actions.suggestMarks(true);
        }}
      />
      <Tool
        name="add pockets"
        onClick={() => {
          actions.markMore("pocket");
        }}
      />
      <Tool
        name="add diamonds"
        onClick={() => {
          actions.markMore("sight");
        }}
      />
      <Tool
        name="picture's edge"
        on={bench.marks?.["frame:top-left"] !== undefined}
        onClick={actions.markEdge}
      />
      <Tool name="turn round" hint="h" onClick={actions.turnRound} />
      <Tool name="new view from here" onClick={actions.newView} />
      {camera && <MarksMiss error={camera.error_px} begun={bench.marked} />}
    </>
  );
}

/** How well the marks agree with one another; those to begin with, which nobody has set, always do. */
function MarksMiss({ error, begun }: { error: number; begun: boolean }) {
  return (
    <span data-testid="camera-error">
      {begun ? `the marks agree within ${error.toFixed(1)} px` : "drag the corners to the table first"}
    </span>
  );
}

export function PlanTools({ bench, actions }: Props<"moment" | "choosing">) {
  const { tool, pen } = useBench();
  return (
    <div role="toolbar" aria-label="Plan's tools" className="tools">
      {!bench.choosing &&
        (["before", "after"] as const).map((moment) => (
          <Tool
            key={moment}
            name={moment}
            hint={moment === "after" ? "b" : undefined}
            on={bench.moment === moment}
            onClick={() => {
              actions.look(moment);
            }}
          />
        ))}
      {!bench.choosing && <Tool name="place" hint="p" on={tool === "place"} onClick={actions.startPlacing} />}
      <Tool
        name="zone"
        hint="z"
        on={tool === "zone"}
        onClick={() => {
          actions.startZone("cue");
        }}
      />
      <Tool name="last leg" hint="r" on={tool === "route"} onClick={actions.startRoute} />
      <Tool
        name={tool === "ink" ? pen.kind : "draw"}
        hint="i"
        on={tool === "ink"}
        onClick={actions.startInk}
      />
      {tool === "ink" && <InkTools actions={actions} />}
    </div>
  );
}

function InkTools({ actions }: { actions: Actions }) {
  const { kind, ink } = useBench((state) => state.pen);
  return (
    <>
      {KINDS.filter((one) => one !== kind).map((one) => (
        <Tool
          key={one}
          name={one}
          onClick={() => {
            actions.takePen(one);
          }}
        />
      ))}
      {INKS.map((one, at) => (
        <Tool
          key={one}
          name={one}
          hint={String(at + 1)}
          on={ink === one}
          onClick={() => {
            actions.setInk(at + 1);
          }}
        />
      ))}
    </>
  );
}
