/** The stroke: ball and pocket or a free line, tip, speed, elevation, and whose hand. */
import type { Pocket } from "../../api/types";
import { ballName } from "../../table/balls";
import { POCKETS, pocketWords } from "../../words";
import { speedWords } from "./speeds";
import type { PanelProps } from "./state";
import { TipFace, tipWords } from "./TipFace";

interface Props extends PanelProps {
  cueSpeed: number | undefined;
}

export function StrokePanel({ lab, choices, cueSpeed, change }: Props) {
  const balls = Object.keys(lab.balls).filter((ball) => ball !== "cue");
  const hands = (choices.tables.find((one) => one.id === lab.table) ?? choices.tables[0])?.hands ?? [];
  const hand = hands.find((one) => one.id === lab.hand);
  const beyond = Math.hypot(lab.side, lab.height) > choices.tip_limit;
  return (
    <section aria-label="Stroke" className="sheet flex flex-col gap-2.5 p-3">
      <div className="grid grid-cols-2 gap-2">
        <Choice
          label="Ball"
          value={lab.at ?? ""}
          onChange={(at) => {
            change(at ? { at, pocket: lab.pocket ?? "foot-left" } : { at: null, pocket: null });
          }}
        >
          <option value="">free line</option>
          {balls.map((ball) => (
            <option key={ball} value={ball}>
              {ballName(ball)}
            </option>
          ))}
        </Choice>
        {lab.at === null ? (
          <Number
            label="Line, degrees"
            value={(lab.aim * 180) / Math.PI}
            step={0.1}
            onChange={(degrees) => {
              change({ aim: (degrees * Math.PI) / 180 });
            }}
          />
        ) : (
          <Choice
            label="Pocket"
            value={lab.pocket ?? ""}
            onChange={(pocket) => {
              change({ pocket: pocket as Pocket });
            }}
          >
            {POCKETS.map((pocket) => (
              <option key={pocket.name} value={pocket.name}>
                {pocketWords(pocket.name)}
              </option>
            ))}
          </Choice>
        )}
      </div>
      {lab.at !== null && (
        <Choice
          label="Part of the pocket"
          value={lab.part}
          onChange={(part) => {
            change({ part });
          }}
        >
          <option value="centre">its middle, as open as it is</option>
          <option value="thick">thick: the fuller hit</option>
          <option value="thin">thin: the thinner hit</option>
        </Choice>
      )}
      <div className="flex items-center gap-3">
        <TipFace
          side={lab.side}
          height={lab.height}
          limit={choices.tip_limit}
          onChange={(side, height) => {
            change({ side, height });
          }}
        />
        <div className="min-w-0 text-[12px]">
          <dl>
            <dt className="caption">tip, in radii</dt>
            <dd data-testid="tip-words">{tipWords(lab.side, lab.height)}</dd>
            <dt className="caption mt-1.5">cue speed</dt>
            <dd>{cueSpeed === undefined ? "–" : `${cueSpeed.toFixed(1)} m/s`}</dd>
          </dl>
          <button
            className="chip mt-2"
            onClick={() => {
              change({ side: 0, height: 0 });
            }}
          >
            centre ball
          </button>
        </div>
      </div>
      {beyond && (
        <p className="text-error">Beyond half a radius the tip slips: this is played as a miscue.</p>
      )}
      <Range
        label="Speed"
        words={`${speedWords(lab.speed)}, ${lab.speed.toFixed(2)} m/s`}
        value={lab.speed}
        min={0.2}
        max={10}
        step={0.05}
        onChange={(speed) => {
          change({ speed });
        }}
      />
      <Range
        label="Butt raised"
        words={`${((lab.elevation * 180) / Math.PI).toFixed(0)}°`}
        value={(lab.elevation * 180) / Math.PI}
        min={0}
        max={80}
        step={1}
        onChange={(degrees) => {
          change({ elevation: (degrees * Math.PI) / 180 });
        }}
      />
      {lab.elevation > 0.3 && (
        <p className="text-[12px] opacity-80">
          Raised strokes can hurt wrist and cloth: ease into them, and ask for the house&apos;s rule.
        </p>
      )}
      <Choice
        label="Hand"
        value={lab.hand}
        onChange={(chosen) => {
          change({ hand: chosen });
        }}
      >
        {hands.map((one) => (
          <option key={one.id}>{one.id}</option>
        ))}
      </Choice>
      {hand && (
        <p className="text-[11px] opacity-75">
          spread: aim {+hand.aim_deg.toFixed(3)}°, speed {+(hand.speed * 100).toFixed(1)} %, tip{" "}
          {+hand.side.toFixed(3)} radii, judging a rail {+hand.rail_deg.toFixed(2)}° (one standard deviation
          of a plain stroke on this table; side, pace, draw and a raised cue widen it)
        </p>
      )}
    </section>
  );
}

export function Choice(props: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  children: React.ReactNode;
}) {
  return (
    <label className="block min-w-0">
      <span className="caption">{props.label}</span>
      <select
        className="select select-sm w-full"
        value={props.value}
        onChange={(event) => {
          props.onChange(event.target.value);
        }}
      >
        {props.children}
      </select>
    </label>
  );
}

function Number(props: { label: string; value: number; step: number; onChange: (value: number) => void }) {
  return (
    <label className="block min-w-0">
      <span className="caption">{props.label}</span>
      <input
        type="number"
        className="input input-sm w-full"
        value={Math.round(props.value * 100) / 100}
        step={props.step}
        onChange={(event) => {
          const value = event.target.valueAsNumber;
          if (!isNaN(value)) props.onChange(value);
        }}
      />
    </label>
  );
}

export function Range(props: {
  label: string;
  words: string;
  value: number;
  min: number;
  max: number;
  step: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="block">
      <span className="flex items-baseline justify-between">
        <span className="caption">{props.label}</span>
        <span className="text-[12px]">{props.words}</span>
      </span>
      <input
        type="range"
        className="range range-xs w-full"
        aria-label={props.label}
        aria-valuetext={props.words}
        min={props.min}
        max={props.max}
        step={props.step}
        value={props.value}
        onChange={(event) => {
          props.onChange(event.target.valueAsNumber);
        }}
      />
    </label>
  );
}
