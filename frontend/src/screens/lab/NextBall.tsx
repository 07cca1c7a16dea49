/** The next ball, its pocket and the angle that is wanted for it. */
import { useState } from "react";

import type { ReachRequest } from "../../api/types";
import { ballName } from "../../table/balls";
import { pocketWords } from "../../words";
import type { LabState } from "./state";

export type Next = NonNullable<ReachRequest["next"]>;

const STEEPEST = 80; // degrees
const WITHIN = 5; // degrees more or less that will do

export function NextBall({ lab, onNext }: { lab: LabState; onNext: (next: Next) => void }) {
  const balls = Object.keys(lab.balls).filter((ball) => ball !== "cue" && ball !== lab.at);
  const [asked, setAsked] = useState({ ball: balls[0] ?? "", pocket: "foot-left", angle: 20 });
  const change = (patch: Partial<typeof asked>) => {
    const then = { ...asked, ...patch };
    setAsked(then);
    if (Number.isFinite(then.angle) && then.angle >= 0 && then.angle <= STEEPEST)
      onNext({ ...then, within: WITHIN });
  };
  if (balls.length === 0) return <p className="caption">no other ball is on the table</p>;
  return (
    <fieldset className="flex flex-wrap items-center gap-1 text-[13px]">
      <legend className="caption">leave the cue ball so that</legend>
      <select
        aria-label="Next ball"
        className="select select-sm w-auto"
        value={asked.ball}
        onChange={(event) => {
          change({ ball: event.target.value });
        }}
      >
        {balls.map((ball) => (
          <option key={ball} value={ball}>
            the {ballName(ball)}
          </option>
        ))}
      </select>
      goes
      <select
        aria-label="Next pocket"
        className="select select-sm w-auto"
        value={asked.pocket}
        onChange={(event) => {
          change({ pocket: event.target.value });
        }}
      >
        {lab.drawn.pockets.map((pocket) => (
          <option key={pocket.name} value={pocket.name}>
            {pocketWords(pocket.name)}
          </option>
        ))}
      </select>
      at
      <input
        type="number"
        aria-label="Angle of the next ball"
        className="input input-sm w-16"
        min={0}
        max={STEEPEST}
        step={5}
        value={Number.isFinite(asked.angle) ? asked.angle : ""}
        onChange={(event) => {
          change({ angle: event.target.valueAsNumber });
        }}
      />
      ° ± {WITHIN}
      <button
        className="chip"
        onClick={() => {
          change({});
        }}
      >
        find it
      </button>
    </fieldset>
  );
}
