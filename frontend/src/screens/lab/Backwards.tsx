/** The lab asked backwards: how to get the cue ball to a place, and how to kick at a ball. */

import { answered, api } from "../../api/client";
import type { KickAnswer, KickRequest, Place } from "../../api/types";
import { Chip } from "../../parts/Chips";
import { Problem } from "../../parts/Problem";
import { ballName } from "../../table/balls";
import type { Shape } from "../../table/shapes";
import { percent } from "../../words";
import { useState } from "react";
import { AimPanel, type Meant } from "./AimPanel";
import { Banks, BySpeed, Lines } from "./Taught";
import { NextBall, type Next } from "./NextBall";
import { placed, type LabState, type Patch } from "./state";
import { Sends, Ways, type Wanted } from "./Ways";
import { useAsked } from "./useAsked";

interface Props {
  lab: LabState;
  to: Place | null;
  placing: boolean;
  onPlacing: (placing: boolean) => void;
  change: (patch: Patch) => void;
  /** What was meant with a logged shot. */
  meant: Meant | null;
  /** The direction in which the stroke is aimed; null while it is not known. */
  aim: number | null;
  onDraw: (shapes: Shape[]) => void;
}

const QUESTIONS = ["aim line", "kicks", "banks", "plants and cannons"] as const;

export function Backwards({ lab, to, placing, meant, aim, onPlacing, change, onDraw }: Props) {
  const [asked, setAsked] = useState<(typeof QUESTIONS)[number] | null>(null);
  const [moved, setMoved] = useState("cue");
  const [angled, setAngled] = useState(false);
  const [next, setNext] = useState<Next | null>(null);
  const others = Object.keys(lab.balls).filter((ball) => ball !== "cue");
  const sends = !angled && to !== null && others.includes(moved);
  const wanted: Wanted | null = angled ? next && { next } : to && { to };
  return (
    <section aria-label="Backwards" className="sheet flex flex-col gap-2 p-3" data-testid="backwards">
      <h2 className="text-[15px]">Backwards</h2>
      <div className="flex flex-wrap gap-1">
        <Chip
          on={placing}
          onClick={() => {
            setAngled(false);
            onPlacing(!placing);
          }}
        >
          {placing ? "click where it should stop" : to ? "another place" : "where should it stop?"}
        </Chip>
        <Chip
          on={angled}
          onClick={() => {
            setAngled(!angled);
          }}
        >
          next ball at an angle
        </Chip>
        {QUESTIONS.map((one) => (
          <Chip
            key={one}
            on={asked === one}
            onClick={() => {
              setAsked(asked === one ? null : one);
              onDraw([]);
            }}
          >
            {one}
          </Chip>
        ))}
      </div>
      {to && !angled && others.length > 0 && (
        <label className="flex items-baseline gap-2 text-[13px]">
          that is
          <select
            aria-label="What should stop there"
            className="select select-sm w-auto"
            value={moved}
            onChange={(event) => {
              setMoved(event.target.value);
            }}
          >
            {["cue", ...others].map((ball) => (
              <option key={ball} value={ball}>
                {ball === "cue" ? "the cue ball" : `the ${ballName(ball)}`}
              </option>
            ))}
          </select>
        </label>
      )}
      {angled && <NextBall lab={lab} onNext={setNext} />}
      {wanted && !sends && lab.at && lab.pocket && <Ways lab={lab} wanted={wanted} change={change} />}
      {wanted && !sends && !lab.at && (
        <p className="caption">choose the ball and the pocket of the pot first</p>
      )}
      {sends && to && <Sends lab={lab} ball={moved} to={to} change={change} />}
      {asked === "aim line" && <AimPanel lab={lab} meant={meant} aim={aim} onDraw={onDraw} />}
      {asked === "kicks" && (
        <Kicks lab={lab} ball={lab.at ?? others[0] ?? ""} change={change} onDraw={onDraw} />
      )}
      {asked === "banks" && (
        <Banks lab={lab} ball={lab.at ?? others[0] ?? ""} change={change} onDraw={onDraw} />
      )}
      {asked === "plants and cannons" && <Lines lab={lab} onDraw={onDraw} />}
    </section>
  );
}

function Kicks({ lab, ball, change, onDraw }: Pick<Props, "lab" | "change" | "onDraw"> & { ball: string }) {
  const body: KickRequest = { ...placed(lab), ball, pocket: null, rails: null, side: lab.side };
  const query = useAsked("kick", body, () => answered<KickAnswer>(api.POST("/api/kick", { body })));
  if (query.error) return <Problem of={query.error} />;
  if (!query.data) return <p role="status">Looking …</p>;
  if (query.data.ways.length === 0) return <p>No kick at the {ballName(ball)} was found.</p>;
  return (
    <ol className="divide-y divide-base-300" aria-label={`Kicks at the ${ballName(ball)}`}>
      {query.data.ways.map((way) => (
        <li key={way.rails.join()} data-testid="kick">
          <button
            className="w-full cursor-pointer py-1 text-left hover:bg-base-200"
            onClick={() => {
              const aim = way.corrected_aim;
              const [cue, to] = [lab.balls["cue"], lab.balls[ball]];
              const then = way.rails.length === 1 && to ? [to] : []; // beyond a second rail the mirrors are many
              if (cue) onDraw([{ line: "ghost", points: [cue, way.mirror_aim, ...then] }]);
              change({
                at: null,
                pocket: null,
                aim,
                speed: way.speed,
                side: lab.side,
                height: 0.15,
                elevation: 0,
              });
            }}
          >
            <b>{way.rails.join(", ")}</b> <span className="caption">{way.speed.toFixed(1)} m/s</span>
            <span className="block text-[12px]">
              mirror at diamond {way.diamond.toFixed(2)}, play {way.corrected_diamond.toFixed(2)}; hit{" "}
              {percent(way.hit.p ?? 0)}{" "}
              <span className="opacity-75">
                ({Math.round(100 * way.hit.low)} to {Math.round(100 * way.hit.high)}, n {way.hit.n})
              </span>
            </span>
            <BySpeed told={way.by_speed} />
          </button>
        </li>
      ))}
    </ol>
  );
}
