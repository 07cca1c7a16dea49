/** The bench's tools as buttons, each with its key, for hands that are on the mouse or a tablet. */
import { Redo2, Undo2 } from "lucide-react";

import type { Camera, Recording } from "../../api/types";
import { say, useBench, type Moment, type Tool } from "./state";

interface Props {
  tool: Tool;
  moment: Moment;
  placing: string | null;
  recording: Recording | undefined;
  marking: boolean;
  camera: Camera | undefined;
  onLook: (moment: Moment) => void;
  onPlace: () => void;
  onMark: () => void;
  onMore: (sort: "pocket" | "sight") => void;
  onTurn: () => void;
  onView: () => void;
  onUndo: () => void;
  onRedo: () => void;
  onKeys: () => void;
}

export function ToolBar(props: Props) {
  const { tool, moment, recording, marking, camera } = props;
  const take = (next: Tool, words: string) => () => {
    useBench.setState({ tool: next, placing: next === "zone" ? "cue" : null });
    say(words);
  };
  return (
    <div role="toolbar" aria-label="Tools" className="ml-auto flex flex-wrap items-center gap-1">
      {marking && (
        <>
          {camera && <span data-testid="camera-error">marks miss by {camera.error_px.toFixed(1)} px</span>}
          <button
            className="chip"
            onClick={() => {
              props.onMore("pocket");
            }}
            disabled={!camera}
          >
            add pockets
          </button>
          <button
            className="chip"
            onClick={() => {
              props.onMore("sight");
            }}
            disabled={!camera}
          >
            add diamonds
          </button>
          <button className="chip" onClick={props.onTurn}>
            turn round <span className="key">h</span>
          </button>
          <button
            className="chip"
            onClick={props.onView}
            title="The camera moved or the recording was cut: mark the table anew from this picture on"
          >
            new view from here
          </button>
        </>
      )}
      {recording && (
        <button className="chip" aria-pressed={marking} onClick={props.onMark}>
          {marking ? "done marking" : "mark the table"}
        </button>
      )}
      {!marking && (
        <>
          <span className="join">
            {(["before", "after"] as const).map((one) => (
              <button
                key={one}
                className="chip"
                aria-pressed={moment === one}
                onClick={() => {
                  props.onLook(one);
                }}
              >
                {one} {one === "after" && <span className="key">b</span>}
              </button>
            ))}
          </span>
          <button className="chip" aria-pressed={tool === "place"} onClick={props.onPlace}>
            place <span className="key">p</span>
          </button>
          <button
            className="chip"
            aria-pressed={tool === "zone"}
            onClick={take("zone", "Click the middle of the target zone.")}
          >
            zone <span className="key">z</span>
          </button>
          <button
            className="chip"
            aria-pressed={tool === "route"}
            onClick={take("route", "Click where the cue ball's last leg began.")}
          >
            last leg <span className="key">r</span>
          </button>
        </>
      )}
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-label="Undo"
        title="Undo (u)"
        onClick={props.onUndo}
      >
        <Undo2 size={15} />
      </button>
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-label="Redo"
        title="Redo (Shift+U)"
        onClick={props.onRedo}
      >
        <Redo2 size={15} />
      </button>
      <button className="chip" onClick={props.onKeys}>
        keys <span className="key">?</span>
      </button>
    </div>
  );
}
