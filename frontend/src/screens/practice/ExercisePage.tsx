/** An exercise at the table: one tap a try, the set-up card, and what the tries come to. Made for a phone. */
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { RESULTS, useAttempts, useDropExercise, useExercise, type Attempt } from "../../api/practice";
import { usePlayers } from "../../api/queries";
import type { Exercise } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { percent, rateWords } from "../../words";
import { Progress } from "./Progress";

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
  const tap = (result: Attempt["result"]) => {
    const attempt = {
      id: crypto.randomUUID(),
      player: player.trim(),
      result,
      zone,
      at: new Date().toISOString(),
    };
    localStorage.setItem("aretane-practises", player);
    setTried([...tried, attempt]);
    setZone(null);
    void log(attempt);
  };
  const made = tried.filter((one) => one.result === "made").length;
  return (
    <>
      <h1 className="text-xl">{exercise.title}</h1>
      {exercise.chance !== null && (
        <p className="text-[12px] opacity-80">
          expected of the hand it was made for: {percent(exercise.chance)}
        </p>
      )}
      <img
        className="w-full max-w-xl rounded-sm bg-white p-1"
        alt={`The table: ${exercise.card.join(" ")}`}
        src={`data:image/svg+xml,${encodeURIComponent(exercise.picture)}`}
      />
      <details>
        <summary className="cursor-pointer">set it up</summary>
        <ol className="list-decimal pl-6">
          {exercise.card.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ol>
      </details>
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
      <p className="flex flex-wrap items-baseline gap-3" role="status">
        <span data-testid="set">
          this set: {made} of {tried.length}
        </span>
        {last && (
          <button
            className="chip"
            onClick={() => {
              setTried(tried.slice(0, -1));
              void takeBack(last.id);
            }}
          >
            take “{WORDS[last.result]}” back
          </button>
        )}
        {waiting.length > 0 && (
          <span className={away ? "text-warning" : "opacity-75"}>
            {waiting.length} kept here{away ? ", sent when the line is back" : ", being sent"}
          </span>
        )}
      </p>
      {exercise.players.map((one) => (
        <section key={one.name} aria-label={one.name} className="border-t border-base-300 pt-3">
          <h2 className="text-lg">{one.name}</h2>
          <p data-testid="progress">
            {rateWords(one.rate)} made{one.thick > 0 && `, ${one.thick} thick`}
            {one.thin > 0 && `, ${one.thin} thin`}
            {one.zone.n > 0 && `; white in place ${rateWords(one.zone)}`}
          </p>
          <p className="font-serif">{one.advice}.</p>
          <Progress of={one} chance={exercise.chance} />
        </section>
      ))}
      <p className="flex flex-wrap gap-2 text-[12px]">
        <a className="chip" href={`/api/exercises/${exercise.id}/card/pdf`} target="_blank" rel="noreferrer">
          set-up card
        </a>
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
