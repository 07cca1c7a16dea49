/** An exercise at the table: one tap a try, the set-up card, and what the tries come to. Made for a phone. */
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { RESULTS, useAttempts, useDropExercise, useExercise, type Attempt } from "../../api/practice";
import { usePlayers } from "../../api/queries";
import type { Exercise } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { percent, rateWords } from "../../words";
import { dateOf } from "../../parts/curve";
import { Progress } from "./Progress";
import { RunPad } from "./RunPad";
import { SetTimer } from "./SetTimer";

const WORDS: Record<Attempt["result"], string> = {
  made: "made",
  thick: "missed thick",
  thin: "missed thin",
  missed: "missed",
};

export function ExercisePage() {
  const { id = "" } = useParams();
  const { data, error } = useExercise(id);
  return (
    <div className="mx-auto w-full max-w-3xl space-y-4 p-4">
      <Problem of={error} />
      {data && <AtTheTable exercise={data} />}
    </div>
  );
}

function AtTheTable({ exercise }: { exercise: Exercise }) {
  const { waiting, away, log, takeBack } = useAttempts(exercise.id);
  const players = usePlayers().data?.players ?? [];
  const [player, setPlayer] = useState(() => localStorage.getItem("aretane-practises") ?? "");
  const [zone, setZone] = useState<boolean | null>(null);
  const [tried, setTried] = useState<Attempt[]>([]);
  const drop = useDropExercise();
  const go = useNavigate();
  const last = tried.at(-1);
  const [warming, setWarming] = useState(false);
  const tap = (result: Attempt["result"], run?: Pick<Attempt, "balls" | "why">) => {
    const attempt = {
      id: crypto.randomUUID(),
      player: player.trim(),
      result,
      zone,
      at: new Date().toISOString(),
      ...run,
    };
    localStorage.setItem("aretane-practises", player);
    setZone(null);
    if (warming) return;
    setTried([...tried, attempt]);
    void log(attempt);
  };
  const balls = exercise.task === "layout" ? Object.keys(exercise.balls).length - 1 : null;
  const made = tried.filter((one) => one.result === "made").length;
  return (
    <>
      <h1 className="text-xl">{exercise.title}</h1>
      {exercise.chance !== null && (
        <p className="text-[12px] opacity-80">
          expected of the hand it was made for: {percent(exercise.chance)}
        </p>
      )}
      {exercise.picture && (
        <img
          className="w-full max-w-xl rounded-sm bg-white p-1"
          alt={`The table: ${exercise.card.join(" ")}`}
          src={`data:image/svg+xml,${encodeURIComponent(exercise.picture)}`}
        />
      )}
      {exercise.card.length > 0 && (
        <details>
          <summary className="cursor-pointer">set it up</summary>
          <ol className="list-decimal pl-6">
            {exercise.card.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
        </details>
      )}
      <SetTimer tried={tried.length} warming={warming} onWarming={setWarming} />
      <label className="flex items-baseline gap-2">
        who practises
        <input
          className="input input-sm w-52"
          list="players"
          placeholder="a name first"
          maxLength={100}
          value={player}
          onChange={(event) => {
            setPlayer(event.target.value);
          }}
        />
        <datalist id="players">
          {players.map((one) => (
            <option key={one.id} value={one.name} />
          ))}
        </datalist>
      </label>
      {exercise.task === "pot" ? (
        <>
          <div className="flex gap-2" role="group" aria-label="The white">
            {([true, false] as const).map((there) => (
              <button
                key={String(there)}
                className="chip min-h-10 flex-1"
                aria-pressed={zone === there}
                onClick={() => {
                  setZone(zone === there ? null : there);
                }}
              >
                white {there ? "where it should be" : "out of place"}
              </button>
            ))}
          </div>
          <div className="grid grid-cols-2 gap-3" role="group" aria-label="A try">
            {RESULTS.map((result) => (
              <button
                key={result}
                className={`btn h-20 text-lg ${result === "made" ? "btn-primary" : ""}`}
                disabled={player.trim() === ""}
                onClick={() => {
                  tap(result);
                }}
              >
                {WORDS[result]}
              </button>
            ))}
          </div>
        </>
      ) : (
        <RunPad
          balls={balls}
          ready={player.trim() !== ""}
          onRun={(made, why) => {
            tap(made === balls ? "made" : "missed", { balls: made, why });
          }}
        />
      )}
      <p className="flex flex-wrap items-baseline gap-3" role="status">
        <span data-testid="set">
          {warming
            ? "warming up: nothing is logged"
            : exercise.task === "run"
              ? `this time: ${tried.map((one) => one.balls).join(", ") || "no run yet"}`
              : `this set: ${made} of ${tried.length}`}
        </span>
        {last && (
          <button
            className="chip"
            onClick={() => {
              setTried(tried.slice(0, -1));
              void takeBack(last.id);
            }}
          >
            take “{last.balls === undefined ? WORDS[last.result] : `${last.balls} balls`}” back
          </button>
        )}
        {waiting.length > 0 && (
          <span className={away ? "text-warning" : "opacity-75"}>
            {waiting.length} kept here{away ? ", sent when the line is back" : ", being sent"}
          </span>
        )}
      </p>
      {exercise.players.length > 1 && <SideBySide exercise={exercise} />}
      {exercise.players.map((one) => (
        <section key={one.name} aria-label={one.name} className="border-t border-base-300 pt-3">
          <h2 className="text-lg">{one.name}</h2>
          {one.runs ? (
            <Runs runs={one.runs} most={balls} />
          ) : (
            <>
              <p data-testid="progress">
                {rateWords(one.rate)} made{one.thick > 0 && `, ${one.thick} thick`}
                {one.thin > 0 && `, ${one.thin} thin`}
                {one.zone.n > 0 && `; white in place ${rateWords(one.zone)}`}
              </p>
              <p className="font-serif">{one.advice}.</p>
              <Progress of={one} chance={exercise.chance} />
            </>
          )}
          {one.matches && <InMatches told={one.matches} />}
        </section>
      ))}
      <p className="flex flex-wrap gap-2 text-[12px]">
        {exercise.card.length > 0 && (
          <a
            className="chip"
            href={`/api/exercises/${exercise.id}/card/pdf`}
            target="_blank"
            rel="noreferrer"
          >
            set-up card
          </a>
        )}
        {exercise.game && exercise.shot && (
          <Link className="chip" to={`/match/${exercise.game}?shot=${exercise.shot}`}>
            the shot it comes from
          </Link>
        )}
        <button
          className="chip"
          onClick={() => {
            if (confirm("Give this exercise up, with all its tries?"))
              drop.mutate(exercise.id, { onSuccess: () => void go("/practice") });
          }}
        >
          give it up
        </button>
      </p>
      <p className="text-[12px] opacity-80">{exercise.caution}</p>
    </>
  );
}

type Practised = Exercise["players"][number];

/** What runs come to. */
function Runs({ runs, most }: { runs: NonNullable<Practised["runs"]>; most: number | null }) {
  const { mean, low, high, n } = runs.mean;
  const interval =
    low === null || high === null
      ? ""
      : ` (${Math.max(0, low).toFixed(1)} to ${Math.min(high, most ?? high).toFixed(1)})`;
  return (
    <>
      <p data-testid="progress">
        {mean?.toFixed(1)} balls a run{interval}, n {n}; best {runs.best}
      </p>
      <p className="text-[13px]">
        ended by{" "}
        {Object.entries(runs.why)
          .map(([why, times]) => `${why} ${times}`)
          .join(", ")}
        ; the last: {runs.last.join(", ")}
      </p>
      {runs.days.length > 1 && (
        <p className="text-[13px] opacity-80">
          by day:{" "}
          {runs.days
            .map(
              (one) =>
                `${dateOf(one.day).toISOString().slice(5, 10)}: ${one.mean?.toFixed(1) ?? "–"} (${one.n})`,
            )
            .join(", ")}
        </p>
      )}
    </>
  );
}

/** Whether what was practised got better in play. */
function InMatches({ told }: { told: NonNullable<Practised["matches"]> }) {
  const { before, since, difference } = told;
  const gap = difference
    ? `; a difference of ${points(difference.difference)} (${points(difference.low)} to ${points(difference.high)})${difference.more === 0 ? "" : ", which may be chance"}`
    : "; nothing tells a difference yet";
  return (
    <p className="text-[13px]" data-testid="in-matches">
      Such shots in matches: before {rateWords(before)}, since {rateWords(since)}
      {gap}.
    </p>
  );
}

const points = (share: number) => `${share >= 0 ? "+" : "−"}${Math.abs(100 * share).toFixed(0)} points`;

/** Many students on one exercise. */
function SideBySide({ exercise }: { exercise: Exercise }) {
  return (
    <table className="w-full text-[13px]" data-testid="side-by-side">
      <thead>
        <tr className="text-left">
          <th scope="col">who</th>
          <th scope="col">{exercise.task === "pot" ? "made" : "balls a run"}</th>
          <th scope="col">{exercise.task === "pot" ? "white in place" : "best"}</th>
        </tr>
      </thead>
      <tbody>
        {exercise.players.map((one) => (
          <tr key={one.name} className="border-t border-base-300">
            <th scope="row" className="py-1 text-left font-normal" dir="auto">
              {one.name}
            </th>
            <td>
              {one.runs
                ? `${one.runs.mean.mean?.toFixed(1) ?? "–"}, n ${one.runs.mean.n}`
                : rateWords(one.rate)}
            </td>
            <td>{one.runs ? one.runs.best : one.zone.n > 0 ? rateWords(one.zone) : "–"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
