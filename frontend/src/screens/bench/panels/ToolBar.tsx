/** The bench's tools as buttons, each with its key, for hands that are on the mouse or a tablet. */
import { Redo2, Undo2 } from "lucide-react";
import { Link } from "react-router";

import { KeyChip as Tool } from "../../../parts/Chips";
import type { Actions } from "../actions";
import { useAsked } from "../choices/state";
import { open, useBench } from "../model/state";
import type { Workbench } from "../model/useWorkbench";

type Props = {
  bench: Pick<
    Workbench,
    "recording" | "marks" | "camera" | "foundShots" | "choosing" | "found" | "game" | "moment"
  >;
  actions: Actions;
};

export function ToolBar({ bench, actions }: Props) {
  const marking = useBench((state) => state.tool === "mark");
  return (
    <div role="toolbar" aria-label="Tools" className="ml-auto flex flex-wrap items-center gap-0.5">
      {marking && <MarkingTools bench={bench} actions={actions} />}
      {bench.recording && (
        <button className="chip" aria-pressed={marking} onClick={actions.mark}>
          {marking ? "done marking" : "mark the table"}
        </button>
      )}
      {!marking && bench.recording && bench.marks && <ReadingTools bench={bench} actions={actions} />}
      {!marking && <ShotTools bench={bench} actions={actions} />}
      {!marking && (
        <Tool
          name="choices"
          hint="⇧C"
          on={bench.choosing}
          onClick={() => {
            useAsked.setState({ open: !bench.choosing, option: null, ball: null, drawing: null });
          }}
        />
      )}
      {!marking && bench.found && (
        <Link className="chip" to={`/lab?match=${bench.game.id}&shot=${bench.found.shot.id}`}>
          simulate
        </Link>
      )}
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-label="Undo"
        title="Undo (u)"
        onClick={() => {
          actions.turn("undo");
        }}
      >
        <Undo2 size={15} />
      </button>
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-label="Redo"
        title="Redo (Shift+U)"
        onClick={() => {
          actions.turn("redo");
        }}
      >
        <Redo2 size={15} />
      </button>
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

function MarkingTools({ bench, actions }: Props) {
  const camera = bench.camera.data;
  return (
    <>
      {camera && <span data-testid="camera-error">marks miss by {camera.error_px.toFixed(1)} px</span>}
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
    </>
  );
}

function ReadingTools({ bench, actions }: Props) {
  const flicker = useBench((state) => state.flicker);
  const running = bench.foundShots.reading?.state === "running";
  return (
    <>
      <Tool name="read balls" hint="⇧R" onClick={actions.readStill} />
      <Tool name="drawn" hint="⇧D" on={flicker} onClick={actions.flicker} />
      {!running && <Tool name="find shots" onClick={actions.readRecording} />}
    </>
  );
}

function ShotTools({ bench, actions }: Props) {
  const tool = useBench((state) => state.tool);
  return (
    <>
      {(["before", "after"] as const).map((moment) => (
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
      <Tool name="place" hint="p" on={tool === "place"} onClick={actions.startPlacing} />
      <Tool
        name="zone"
        hint="z"
        on={tool === "zone"}
        onClick={() => {
          actions.startZone("cue");
        }}
      />
      <Tool name="last leg" hint="r" on={tool === "route"} onClick={actions.startRoute} />
    </>
  );
}
