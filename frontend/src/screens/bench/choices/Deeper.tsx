/** Behind the list: the plan, attack against safety, who could run this, and what is in the way of it. */
import { useState } from "react";

import { useChoices } from "../../../api/choices";
import { disciplineOf } from "../../../games/discipline";
import { BreakShotWords } from "./BreakShotWords";
import { RateBar } from "../../../parts/RateBar";
import type { Place, TroubleBody } from "../../../api/types";
import { Problem } from "../../../parts/Problem";
import { BreakEven } from "./BreakEven";
import { OtherOrders } from "./OtherOrders";
import { PlanTable } from "./PlanTable";
import type { ChoicesOf } from "./useChoicesOf";
import { useAsked } from "./state";
import { percent } from "../../../words";
import { part } from "./words";

const PAGES = ["plan", "attack or safety", "who could run this", "trouble"] as const;

export function Deeper({ choices, discipline }: { choices: ChoicesOf; discipline: string }) {
  const [page, setPage] = useState<(typeof PAGES)[number]>("plan");
  const body = choices.answer?.body;
  const { points } = disciplineOf(discipline);
  return (
    <div className="p-3" data-testid="deeper">
      {choices.map && (
        <p className="mb-2 text-[12px] opacity-80">
          Places of the cue ball for {choices.map.ball ? `the ${choices.map.ball}` : "what is on"}. Drag any
          ball to try another table.
          {choices.list?.options.some((one) => one.played > 0) &&
            (points
              ? " The places alone promise what a table brings on which no other ball is moved; plan and choices are played on to the end."
              : " The places alone are off by 4 points on average for running out, by more on full tables; plan and choices are played on to the end.")}
        </p>
      )}
      <div role="tablist" aria-label="Behind the choices" className="mb-2 flex flex-wrap gap-1">
        {PAGES.map((one) => (
          <button
            key={one}
            role="tab"
            aria-selected={page === one}
            className="chip"
            onClick={() => {
              setPage(one);
            }}
          >
            {one}
          </button>
        ))}
      </div>
      {page === "plan" &&
        (choices.plan ? (
          <>
            <PlanTable plan={choices.plan} discipline={discipline} points={points} />
            <OtherOrders plan={choices.plan} points={points} />
          </>
        ) : (
          <>
            <Problem of={choices.planError} />
            <p className="opacity-75" role="status">
              {choices.running || choices.planning ? "Looking …" : "Nothing yet."}
            </p>
          </>
        ))}
      {page === "attack or safety" && <BreakEven choices={choices} />}
      {page === "who could run this" && <Who choices={choices} />}
      {page === "trouble" &&
        (body?.trouble ? (
          <Trouble
            trouble={body.trouble}
            onPlace={(cue) => {
              useAsked.setState({ tried: { entry: choices.key, balls: { ...choices.balls, cue } } });
            }}
          />
        ) : (
          <p className="opacity-75">Looking …</p>
        ))}
    </div>
  );
}

function Who({ choices }: { choices: ChoicesOf }) {
  const who = useChoices(
    choices.game,
    choices.body && { ...choices.body, kind: "who", added: null, settle: false },
  );
  const rates = Object.entries(who.data?.body.who ?? {});
  return (
    <section aria-label="Who could run this" data-testid="who">
      <ul className="max-w-md divide-y divide-base-300 border-y border-base-300">
        {rates.map(([name, rate]) => (
          <li key={name} className="grid grid-cols-[120px_1fr_150px] items-center gap-3 py-1">
            <span>{name}</span>
            <RateBar rate={rate} />
            <span>
              <b>{part(rate)}</b>{" "}
              <span className="text-[11px] opacity-75">
                ({Math.round(100 * rate.low)} to {Math.round(100 * rate.high)}), n {rate.n}
              </span>
            </span>
          </li>
        ))}
      </ul>
      {who.data?.state === "running" && (
        <progress className="progress w-24" value={who.data.progress} max={1} aria-label="Hands worked out" />
      )}
      <p className="caption mt-1">
        racks played on: every shot searched from where the balls really lie, played with that hand's errors
      </p>
    </section>
  );
}

/** Which ball of the cluster is struck, how full and on which side. */
function metWords({
  struck,
  met,
}: Pick<TroubleBody["clusters"][number]["openings"][number], "struck" | "met">): string {
  if (!struck) return "the potted ball runs into it";
  if (!met) return `the white meets the ${struck}`;
  if (met.fullness > FULL) return `the white meets the ${struck} full`;
  return `the white meets the ${struck} ${percent(met.fullness)} full on its ${met.side}`;
}

const FULL = 0.9;

function Trouble({ trouble, onPlace }: { trouble: TroubleBody; onPlace: (place: Place) => void }) {
  if (!trouble.problem_balls.length && !trouble.clusters.length && !trouble.nudges.length)
    return <p data-testid="trouble">No problem balls and no clusters.</p>;
  return (
    <section aria-label="Trouble" className="space-y-2" data-testid="trouble">
      {trouble.problem_balls.map((one) => (
        <p key={one.ball}>
          <b>{one.ball}</b>: {one.why}
        </p>
      ))}
      {trouble.nudges.map((one) => (
        <p key={`nudge ${one.moved}`}>
          <b>{one.moved}</b> goes {percent(one.goes[0])} at its turn; nudged with the {one.ball} it goes{" "}
          {percent(one.goes[1])}: pot and nudge come off {part(one.chance)} (n {one.chance.n}),{" "}
          {metWords({ struck: one.met && one.moved, met: one.met })}. The {one.ball} goes {part(one.pot)},
          played surest {part(one.surest)}; then a next shot {part(one.next)} (n {one.next.n}).
        </p>
      ))}
      {trouble.clusters.map((one) => (
        <div key={one.balls.join()}>
          <p>
            Cluster <b>{one.balls.join(", ")}</b>, needed from the {one.needed} on:{" "}
            {one.openings.length
              ? `${one.openings.length} ${one.openings.length === 1 ? "chance" : "chances"} to open it before, one of them works ${Math.round(100 * one.any_works)} %`
              : "no pot before it opens it"}
            {one.insurance.length > 0 && `; insurance: ${one.insurance.join(", ")}`}.
          </p>
          <ul className="ml-4 list-disc">
            {one.openings.map((opening) => (
              <li key={opening.ball}>
                from the {opening.ball}: {part(opening.chance)} (n {opening.chance.n}); {metWords(opening)};
                then a next shot {part(opening.next)} (n {opening.next.n})
              </li>
            ))}
            {one.break_shots.map((shot) => (
              <li key={`break ${shot.ball}`}>
                secondary break shot with the <b>{shot.ball}</b>:{" "}
                <BreakShotWords of={shot} what="the cluster" />{" "}
                <button
                  className="chip"
                  onClick={() => {
                    onPlace(shot.place);
                  }}
                >
                  white to its best place
                </button>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}
