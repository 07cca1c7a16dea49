/** The recording beside the plan, or what there is in its place. */
import type { Actions } from "../actions";
import { open, useBench } from "../model/state";
import type { Workbench } from "../model/useWorkbench";
import { Pane } from "./Pane";
import { Picture } from "./Picture";
import { RackNotes } from "./RackNotes";
import { FilmTools } from "./ToolBar";
import { Transport } from "./Transport";

type Props = {
  bench: Pick<
    Workbench,
    | "game" | "rackIndex" | "recording" | "linked" | "video" | "setVideo" | "camera" | "shown" | "shapes" | "chosen"
    | "entry" | "target" | "doubts" | "marks" | "player" | "document" | "elsewhere" | "foundShots" | "marked"
  >;
  actions: Actions;
}; // prettier-ignore

export function Film({ bench, actions }: Props) {
  const { recording, linked, game, rackIndex } = bench;
  if (!recording)
    return (
      <section
        aria-label="Recording"
        className="pane area-film sheet items-center justify-center gap-3 overflow-y-auto p-4 text-center"
      >
        <RackNotes
          game={game}
          rack={rackIndex}
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
      </section>
    );
  if (recording.converted !== null || recording.problem)
    return (
      <section
        aria-label="Recording"
        className="pane area-film sheet items-center justify-center gap-3 p-4 text-center"
      >
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
      </section>
    );
  return <Shown {...{ bench, actions, recording }} />;
}

function Shown({ bench, actions, recording }: Props & { recording: NonNullable<Workbench["recording"]> }) {
  const { tool, looping, flicker, mark } = useBench();
  const { elsewhere, entry } = bench;
  const { width, height, pixel_aspect } = recording.probe;
  return (
    <Pane
      name="Picture"
      ratio={(width * pixel_aspect) / height}
      dark
      className="area-film"
      tools={<FilmTools bench={bench} actions={actions} />}
      below={
        <>
          {elsewhere && (
            <p
              className="border-t border-base-300 px-2 py-1 text-[12px] text-warning"
              data-testid="elsewhere"
            >
              This shot has no moment in the recording: the picture is of another one. Find its still picture
              and mark it with [.
            </p>
          )}
          <Transport
            player={bench.player}
            recording={recording}
            document={bench.document}
            looping={looping}
            onPlay={actions.toggle}
            onLoop={() => {
              useBench.setState({ looping: !looping });
            }}
            onMark={actions.markTime}
          />
        </>
      }
    >
      <Picture
        recording={recording}
        video={bench.video}
        onVideo={bench.setVideo}
        table={bench.game.table}
        camera={bench.camera.data}
        balls={elsewhere ? {} : bench.shown}
        shapes={elsewhere ? [] : bench.shapes}
        chosen={bench.chosen ?? (entry.found ? null : (bench.target?.ball ?? null))}
        doubts={bench.doubts}
        drawn={flicker}
        marks={tool === "mark" ? (bench.marks ?? {}) : null}
        mark={mark}
        placing={tool !== "look"}
        onMarks={(marks, done) => {
          if (done) actions.saveMarks(marks);
          else useBench.setState({ marks });
        }}
        onPoint={(at) => {
          actions.point(at, "picture");
        }}
        onPen={tool === "ink" ? actions.stroke : undefined}
        onDrag={(ball, at, done) => {
          actions.place(ball, at, done, "picture");
        }}
        onBall={actions.chooseBall}
      />
    </Pane>
  );
}
