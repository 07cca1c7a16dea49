/** Practice: the exercises that were made of shots, each with what its attempts came to. */
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { useExercises, useMakeRuns } from "../../api/practice";
import type { Rate } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { RateBar } from "../../parts/RateBar";
import { percent, rateWords } from "../../words";
import { ToPractise } from "./ToPractise";

export function Practice() {
  const { data, error } = useExercises();
  return (
    <div className="mx-auto w-full max-w-4xl space-y-4 p-5">
      <div className="flex flex-wrap items-baseline gap-3">
        <h1 className="text-2xl">Practice</h1>
        <Link className="chip ml-auto" to="/practice/plan">
          plan by week
        </Link>
      </div>
      <ToPractise />
      <div className="flex flex-wrap items-baseline gap-3">
        <h2 className="text-lg">Exercises</h2>
        <NewLog />
      </div>
      <Problem of={error} />
      {data?.exercises.length === 0 && (
        <p className="max-w-xl">
          No exercise yet. On the bench, Shift+E makes one of the shot; the verdict offers it with every
          moment. It is then practised from a tablet or phone on the rail.
        </p>
      )}
      <ul className="divide-y divide-base-300 border-y border-base-300 empty:border-0">
        {data?.exercises.map((one) => (
          <li key={one.id}>
            <Link
              to={`/practice/${one.id}`}
              className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 py-2 hover:bg-base-200 sm:grid-cols-[1fr_120px_210px]"
            >
              <span className="font-serif text-[16px]">{one.title}</span>
              <span className="hidden sm:block">{one.task !== "run" && <RateBar rate={one.rate} />}</span>
              <span className="text-[12px]">
                {one.task === "pot" ? rateWords(one.rate) : runWords(one.rate)}
                {one.chance !== null && <span className="opacity-75">; expected {percent(one.chance)}</span>}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

const runWords = ({ n, p }: Rate) =>
  n === 0 ? "no runs" : `${n} ${n === 1 ? "run" : "runs"}${p ? `, ${Math.round(p * n)} cleared` : ""}`;

/** A daily log of runs, without a table of its own. */
function NewLog() {
  const make = useMakeRuns();
  const go = useNavigate();
  const [title, setTitle] = useState("");
  return (
    <form
      className="ml-auto flex items-baseline gap-2 text-[13px]"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate({ title }, { onSuccess: (made) => void go(`/practice/${made.id}`) });
      }}
    >
      <input
        aria-label="A log of runs"
        className="input input-sm w-56"
        placeholder="log of runs: straight pool alone"
        maxLength={120}
        value={title}
        onChange={(event) => {
          setTitle(event.target.value);
        }}
      />
      {title.trim() !== "" && <button className="chip">begin</button>}
      <Problem of={make.error} />
    </form>
  );
}
