/** A stroke of the coach's own: aimed with a click on the plan, valued among the others. */
import { Choice } from "../../../parts/Chips";
import { say } from "../model/state";
import { useAsked } from "./state";
import { aimAt, type ChoicesOf } from "./useChoicesOf";

const TIPS: Record<string, [number, number]> = {
  stun: [0, 0],
  draw: [0, -0.4],
  follow: [0, 0.4],
  "right side": [0.35, 0],
  "left side": [-0.35, 0],
};

export function AddStroke({ choices }: { choices: ChoicesOf }) {
  const { drawing, drawn } = useAsked();
  const cue = choices.balls["cue"];
  if (!cue) return null;
  if (!drawing)
    return (
      <button
        className="chip"
        onClick={() => {
          useAsked.setState({ drawing: { aim: null, speed: 2, side: 0, height: 0 } });
          say("Click on the plan where the cue points.");
        }}
      >
        {drawn?.entry === choices.key ? "another stroke" : "add a stroke"}
      </button>
    );
  const tip =
    Object.entries(TIPS).find(([, [s, h]]) => s === drawing.side && h === drawing.height)?.[0] ?? "stun";
  return (
    <div className="flex flex-wrap items-center gap-2 text-[12px]" role="group" aria-label="Stroke to add">
      <Choice
        label="Tip"
        value={tip}
        options={Object.keys(TIPS)}
        onChange={(name) => {
          const [side, height] = TIPS[name] ?? [0, 0];
          useAsked.setState({ drawing: { ...drawing, side, height } });
        }}
      />
      <label className="flex items-center gap-1">
        <input
          type="range"
          aria-label="Speed of the stroke"
          className="range range-xs w-24"
          min={0.5}
          max={6}
          step={0.1}
          value={drawing.speed}
          onChange={(event) => {
            useAsked.setState({ drawing: { ...drawing, speed: Number(event.target.value) } });
          }}
        />
        {drawing.speed.toFixed(1)} m/s
      </label>
      <button
        className="chip"
        disabled={!drawing.aim}
        onClick={() => {
          if (!drawing.aim) return;
          const { speed, side, height } = drawing;
          useAsked.setState({
            drawing: null,
            option: null,
            drawn: { entry: choices.key, stroke: { aim: aimAt(cue, drawing.aim), speed, side, height } },
          });
          say("The stroke is valued among the others.");
        }}
      >
        value it
      </button>
      <button
        className="chip"
        onClick={() => {
          useAsked.setState({ drawing: null });
        }}
      >
        leave it
      </button>
      {!drawing.aim && <span className="opacity-75">click where the cue points</span>}
    </div>
  );
}
