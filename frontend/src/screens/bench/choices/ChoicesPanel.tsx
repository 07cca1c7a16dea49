/** The choices at this shot as a short list, best first, with what the one that was played cost. */
import { useState } from "react";

import { stopChoices } from "../../../api/choices";
import type { Option, Place } from "../../../api/types";
import { Problem } from "../../../parts/Problem";
import { useSettings } from "../../../settings";
import { trade } from "../../../trade";
import { GRADES } from "../../../words";
import { toldIn } from "../../matches/Conditions";
import type { Actions } from "../actions";
import { named, opposed } from "../panels/Board";
import type { Workbench } from "../model/useWorkbench";
import { AddStroke } from "./AddStroke";
import { Assumptions } from "./Assumptions";
import { Felt } from "./Felt";
import { disciplineOf } from "../../../games/discipline";
import { OptionRow } from "./OptionRow";
import { gradeAt, valueAt } from "./map";
import { useAsked, useAssumed } from "./state";
import { worthOf, type ChoicesOf } from "./useChoicesOf";
import { Weighed } from "./Weighed";
import { asGood, isPoints, signed } from "./words";
import { WrittenPlan } from "./WrittenPlan";

const LEVELS: Record<string, string> = {
  glance: "a first look",
  coarse: "looked at twice",
  fine: "worked out",
};
const NO_OPTIONS: Option[] = [];
const SHORT = 7; // options shown until all are asked for

export function ChoicesPanel({ bench, actions }: { bench: Workbench; actions: Actions }) {
  const { choices, game, entry } = bench;
  const { list, played } = choices;
  const asked = useAsked();
  const school = useAssumed((state) => state.school);
  const [all, setAll] = useState(false);
  const feltFirst = useSettings((state) => state.feltFirst);
  const [revealed, setRevealed] = useState<string | null>(null);
  const seat = entry.document.player ?? "A";
  const against = opposed(game, seat);
  if (!choices.state || !choices.body)
    return (
      <section aria-label="Choices" className="sheet min-w-0 p-3" data-testid="choices">
        <h2 className="mb-1 text-[15px]">What should be played</h2>
        <p>
          {choices.state
            ? "The places of the balls are not known here: place them, or read them from the picture."
            : "A break is not valued; go on to the shot after it."}
        </p>
      </section>
    );
  const keepFelt = (felt: object) => {
    actions.set({ felt: felt as Record<string, unknown> }, "felt");
  };
  if (feltFirst && entry.document.felt?.pot == null && revealed !== entry.key)
    return (
      <section aria-label="Choices" className="sheet min-w-0 space-y-3 p-3" data-testid="choices">
        <h2 className="text-[15px]">How often does this go in, for this player?</h2>
        <Felt document={entry.document} played={null} best={undefined} onKeep={keepFelt} />
        <button
          className="btn btn-sm"
          onClick={() => {
            setRevealed(entry.key);
          }}
        >
          Show the numbers
        </button>
        <AskFirst />
      </section>
    );
  const order = choices.answer?.body.schools?.find((one) => one.name === school)?.order;
  const indices = list ? (order?.length === list.options.length ? order : list.options.map((_, i) => i)) : [];
  const best = bestOf(list?.options ?? []);
  const drawn = list?.options.some((one) => one.played > 0) ?? false;
  const { points } = disciplineOf(game.header.discipline);
  const short = all ? indices : indices.filter((index, at) => at < SHORT || index === played?.index);
  return (
    <section aria-label="Choices" className="sheet min-w-0 space-y-2 p-3" data-testid="choices">
      <div className="flex flex-wrap items-baseline gap-2">
        <h2 className="text-[15px]">What should be played</h2>
        <Standing choices={choices} />
      </div>
      <Problem of={choices.error} />
      {choices.answer?.state === "failed" && (
        <p role="alert" className="text-error">
          {choices.answer.said}{" "}
          <button className="chip" onClick={() => void choices.again()}>
            try again
          </button>
        </p>
      )}
      <Here choices={choices} cue={bench.shown["cue"]} against={against} />
      <Answering choices={choices} />
      <Cost choices={choices} />
      <ol
        className={`max-h-[46vh] divide-y divide-base-300 overflow-y-auto border-y border-base-300 ${choices.old ? "opacity-40" : ""}`}
        aria-label="Options"
      >
        {short.map((index) => {
          const option = list?.options[index];
          return (
            option && (
              <OptionRow
                key={index}
                option={option}
                rank={indices.indexOf(index) + 1}
                chosen={asked.option === index}
                played={played?.index === index}
                added={option.also.includes("added")}
                points={points}
                against={against}
                drawn={drawn}
                equal={option !== best && best !== undefined && asGood(worthOf(option), worthOf(best))}
                onChoose={() => {
                  useAsked.setState({ option: asked.option === index ? null : index });
                }}
              />
            )
          );
        })}
        {!list && <li className="py-2 opacity-75">{choices.running ? "Looking …" : "Nothing yet."}</li>}
      </ol>
      {list && list.options.length > 1 && (
        <p className="caption">
          ≈ not to be told apart from the best of these; of each sort the plainest comes first
        </p>
      )}
      {list && list.options.length > SHORT && (
        <button
          className="chip"
          onClick={() => {
            setAll(!all);
          }}
        >
          {all ? "the best only" : `all ${list.options.length}`}
        </button>
      )}
      <AddStroke choices={choices} />
      <Weighed
        key={`weighed ${entry.key}`}
        game={game}
        document={entry.document}
        who={[named(game, seat), named(game, seat === "A" ? "B" : "A"), "coach"]}
        options={list?.options ?? NO_OPTIONS}
        on={{
          table: game.header.table ?? "pool-9ft",
          discipline: game.header.discipline,
          balls: choices.balls,
          hand: (choices.answer?.hands[0] as unknown as Record<string, number> | undefined) ?? "club",
        }}
        onKeep={(weighed) => {
          actions.set({ weighed }, "weighed");
        }}
      />
      <WrittenPlan bench={bench} actions={actions} />
      <Felt
        key={entry.key}
        document={entry.document}
        played={played?.option ?? null}
        best={list?.options[0]}
        onKeep={keepFelt}
      />
      <AskFirst />
      <Assumptions
        answer={choices.answer}
        player={named(game, seat)}
        opponent={against ? named(game, seat === "A" ? "B" : "A") : null}
        table={dayOf(game)}
      />
    </section>
  );
}

/** The table and the day's conditions that are reckoned with. */
function dayOf({ header, table }: Workbench["game"]): string {
  const name = trade.tables.find(([id]) => id === header.table)?.[1] ?? table.name;
  const { pockets, cloth, rails, rest, jump, masse } = toldIn(header);
  const words = [
    pockets && `${pockets} pockets`,
    cloth && `${cloth} cloth`,
    rails && `${rails} rails`,
    rest === false && "no rest",
    jump === false && "no jump shots",
    masse === false && "no masse",
  ];
  return [name, ...words.filter(Boolean)].join(", ");
}

/** Whether the coach's own estimate is asked before the numbers are seen: else they make it. */
function AskFirst() {
  const feltFirst = useSettings((state) => state.feltFirst);
  return (
    <label className="flex items-center gap-2 text-[12px]">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={feltFirst}
        onChange={() => {
          useSettings.setState({ feltFirst: !feltFirst });
        }}
      />
      ask what I feel before the numbers are shown
    </label>
  );
}

/** How far the work has come, how fine it is, and the ways to go on or to stop. */
function Standing({ choices }: { choices: ChoicesOf }) {
  const { answer, running } = choices;
  const settle = useAsked((state) => state.settle);
  return (
    <span className="ml-auto flex items-center gap-2 text-[12px]">
      {answer?.place && (
        <span role="status">
          {answer.place.before > 0 ? `${String(answer.place.before)} before you, ` : ""}about{" "}
          {Math.ceil(answer.place.seconds)} s
        </span>
      )}
      {running && (
        <>
          <progress
            className="progress progress-primary w-20"
            value={answer?.progress ?? 0}
            max={1}
            aria-label="Worked out"
          />
          <button
            className="chip"
            onClick={() => {
              if (answer) void stopChoices(answer.hash);
            }}
          >
            stop
          </button>
        </>
      )}
      <span className="opacity-75">{LEVELS[answer?.body.level ?? ""] ?? ""}</span>
      {!running && answer && !settle && (
        <button
          className="chip"
          title="More places, more strokes, more tries: takes longer"
          onClick={() => {
            useAsked.setState({ settle: true });
          }}
        >
          more exactly
        </button>
      )}
    </span>
  );
}

/** The value of the cue ball's place, at once while it is dragged. */
function Here({ choices, cue, against }: { choices: ChoicesOf; cue: Place | undefined; against: boolean }) {
  const map = choices.map;
  const points = choices.list?.options.some(isPoints) ?? false;
  if (!map || !cue) return null;
  const run = valueAt(map, "run", cue);
  const win = valueAt(map, "win", cue);
  return (
    <p className="text-[13px]" data-testid="here">
      Cue ball here{map.ball ? `, for the ${map.ball}` : ""}:{" "}
      {points || map.win.some((one) => one > 1.5) ? (
        <>
          on average <b>{signed(win)}</b> points ahead from here
        </>
      ) : (
        <>
          {against && (
            <>
              wins <b>{(100 * win).toFixed(1)} %</b>,{" "}
            </>
          )}
          runs out <b>{(100 * run).toFixed(1)} %</b>
        </>
      )}{" "}
      <span className="opacity-75">({GRADES[gradeAt(map, cue)]}; quickly estimated)</span>
      {choices.tried && (
        <button
          className="chip ml-2"
          onClick={() => {
            useAsked.setState({ tried: null });
          }}
        >
          as logged
        </button>
      )}
    </p>
  );
}

/** After a push-out: play on, or hand the shot back. */
function Answering({ choices }: { choices: ChoicesOf }) {
  const answer = choices.answer?.body.answer;
  if (!answer) return null;
  return (
    <p data-testid="answering">
      The push-out: play on <b>{(100 * answer.play).toFixed(1)} %</b>, hand it back{" "}
      <b>{(100 * answer.hand_back).toFixed(1)} %</b> <span className="opacity-75">(quickly estimated)</span>
    </p>
  );
}

/** What the choice that was made cost against the best one. */
function Cost({ choices }: { choices: ChoicesOf }) {
  const { played, list } = choices;
  const best = list?.options[0];
  if (!played || !best) return null;
  const [mine, most] = [worthOf(played.option), worthOf(best)];
  if (mine?.p == null || most?.p == null) return null;
  const lost = most.p - mine.p;
  const half = Math.hypot(mine.high - mine.low, most.high - most.low) / 2;
  const unit = isPoints(best) ? " points" : " %";
  const scale = isPoints(best) ? 1 : 100;
  return (
    <p data-testid="cost">
      {played.exact ? "Played, as it was meant" : "Played (the nearest option to what was logged)"}:{" "}
      {lost <= 0.0005 ? (
        <b>the best choice</b>
      ) : (
        <>
          costs{" "}
          <b>
            {(scale * lost).toFixed(1)}
            {unit}
          </b>{" "}
          against the best choice
        </>
      )}{" "}
      <span className="opacity-75">
        (± {(scale * half).toFixed(1)}, n {mine.n}
        {lost > 0 && lost < half ? "; within the error" : ""})
      </span>
    </p>
  );
}

/** The one of the highest worth. */
const bestOf = (options: Option[]): Option | undefined =>
  options.reduce<Option | undefined>(
    (best, one) => (best && (worthOf(best)?.p ?? 0) >= (worthOf(one)?.p ?? 0) ? best : one),
    undefined,
  );
