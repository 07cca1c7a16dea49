/** Strokes for a place that was chosen: of the cue ball after a pot, or of an object ball. */

import { answered, api } from "../../api/client";
import type { Place, ReachAnswer, Reached, ReachRequest, SendAnswer, Sent } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { ballName } from "../../table/balls";
import { percent } from "../../words";
import { placed, type LabState, type Patch } from "./state";
import { useAsked } from "./useAsked";

export const THERE = 0.1; // metres round the place that count as there

/** Where the cue ball should stop: a place, or the next ball at an angle. */
export type Wanted = { to: Place } | { next: NonNullable<ReachRequest["next"]> };

interface Props {
  lab: LabState;
  change: (patch: Patch) => void;
}

export function Ways({ lab, wanted, change }: Props & { wanted: Wanted }) {
  const body: ReachRequest = {
    ...placed(lab),
    ball: lab.at ?? "",
    pocket: lab.pocket ?? "",
    ...("to" in wanted ? { to: wanted.to, next: null } : { to: null, next: wanted.next }),
    radius: THERE,
  };
  const query = useAsked("reach", body, () => answered<ReachAnswer>(api.POST("/api/reach", { body })));
  if (query.error) return <Problem of={query.error} />;
  if (!query.data) return <p role="status">Looking …</p>;
  const { strokes, nearest } = query.data;
  return (
    <>
      {strokes.length === 0 && (
        <p data-testid="nearest">
          {nearest
            ? `Not possible from here; the nearest is ${centimetres(nearest.off)} away.`
            : "This ball cannot be potted there from here."}
        </p>
      )}
      <ol className="divide-y divide-base-300" aria-label="Ways to get there">
        {[...strokes, ...(strokes.length === 0 && nearest ? [nearest] : [])].map((one) => (
          <Way key={`${one.words} ${one.route}`} one={one} lab={lab} change={change} />
        ))}
      </ol>
    </>
  );
}

function Way({ one, lab, change }: Props & { one: Reached }) {
  return (
    <li data-testid="way">
      <button
        className="w-full cursor-pointer py-1 text-left hover:bg-base-200"
        onClick={() => {
          change({ at: lab.at, pocket: lab.pocket, part: one.part, ...tipOf(one.stroke) });
        }}
      >
        <b>
          {one.words}
          {one.part !== "centre" && `, into the ${one.part} side of the pocket`}
        </b>
        <span className="block text-[12px]">
          {one.route}; pot {percent(one.pot.p ?? 0)}, then there {percent(one.inside.p ?? 0)}{" "}
          <span className="opacity-75">
            ({Math.round(100 * one.inside.low)} to {Math.round(100 * one.inside.high)}, n {one.inside.n})
          </span>
        </span>
        <span className="block text-[12px] opacity-75">{paceWords(one)}</span>
      </button>
    </li>
  );
}

export function Sends({ lab, ball, to, change }: Props & { ball: string; to: Place }) {
  const body = { ...placed(lab), ball, to, radius: THERE };
  const query = useAsked("send", body, () => answered<SendAnswer>(api.POST("/api/send", { body })));
  if (query.error) return <Problem of={query.error} />;
  if (!query.data) return <p role="status">Looking …</p>;
  const { strokes } = query.data;
  if (strokes.length === 0)
    return <p data-testid="nearest">Nothing strikes the {ballName(ball)} from here.</p>;
  return (
    <ol className="divide-y divide-base-300" aria-label={`Strokes that leave the ${ballName(ball)} there`}>
      {strokes.map((one) => (
        <li key={`${one.words} ${one.route}`} data-testid="sent">
          <button
            className="w-full cursor-pointer py-1 text-left hover:bg-base-200"
            onClick={() => {
              const { aim } = one.stroke as { aim: number };
              change({ at: null, pocket: null, aim, ...tipOf(one.stroke) });
            }}
          >
            <b>{one.words}</b>
            <span className="block text-[12px]">
              white: {one.route}; there {percent(one.inside.p ?? 0)}{" "}
              <span className="opacity-75">
                ({Math.round(100 * one.inside.low)} to {Math.round(100 * one.inside.high)}, n {one.inside.n})
              </span>
              , a foul {percent(one.foul.p ?? 0)}
              {one.off > CLOSE && `; the nearest, ${centimetres(one.off)} away`}
            </span>
            <span className="block text-[12px] opacity-75">{paceWords(one)}</span>
          </button>
        </li>
      ))}
    </ol>
  );
}

const CLOSE = 0.021; // metres: farther off it is only the nearest

const centimetres = (metres: number) => `${(100 * metres).toFixed(0)} cm`;

const tipOf = (stroke: Record<string, unknown>) => {
  const {
    speed,
    side = 0,
    height = 0,
    elevation = 0,
  } = stroke as { speed: number; side?: number; height?: number; elevation?: number };
  return { speed, side, height, elevation };
};

/** What a tenth more or less of speed does. */
function paceWords({ stop, softer, firmer }: Reached | Sent): string {
  const off = (place: Place | null) =>
    place ? `${centimetres(Math.hypot(place[0] - stop[0], place[1] - stop[1]))} off` : "lost";
  return `a tenth softer ${off(softer)}, firmer ${off(firmer)}`;
}
