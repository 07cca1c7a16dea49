/** The plan of practice: sessions by week, each with its time, exercises, goal and note; a calendar file of it. */
import { useState } from "react";
import { Link } from "react-router";

import { useExercises, usePlan, usePlanned } from "../../api/practice";
import { usePlayers } from "../../api/queries";
import type { Planned } from "../../api/types";
import { Problem } from "../../parts/Problem";

export function PlanPage() {
  const { data, error } = usePlan();
  const sessions = data?.sessions ?? [];
  const weeks = [...new Set(sessions.map((one) => one.week))];
  const players = [...new Set(sessions.map((one) => one.player))];
  return (
    <div className="mx-auto w-full max-w-4xl space-y-4 p-5">
      <div className="flex flex-wrap items-baseline gap-3">
        <h1 className="text-2xl">Plan of practice</h1>
        <Link className="underline" to="/practice">
          exercises
        </Link>
        {sessions.length > 0 && (
          <span className="ml-auto flex flex-wrap gap-1">
            <a className="chip" href="/api/plan/calendar" download>
              calendar file
            </a>
            {players.length > 1 &&
              players.map((name) => (
                <a
                  key={name}
                  className="chip"
                  href={`/api/plan/calendar?player=${encodeURIComponent(name)}`}
                  download
                >
                  of {name}
                </a>
              ))}
          </span>
        )}
      </div>
      <Problem of={error} />
      <NewSession />
      {weeks.map((week) => (
        <Week key={week} week={week} sessions={sessions.filter((one) => one.week === week)} />
      ))}
      {data && sessions.length === 0 && <p>Nothing is planned yet.</p>}
      {data && <p className="text-[12px] opacity-80">{data.caution}</p>}
    </div>
  );
}

const day = (told: string, how: Intl.DateTimeFormatOptions) =>
  new Date(told).toLocaleDateString("en-GB", how);

function Week({ week, sessions }: { week: string; sessions: Planned[] }) {
  const change = usePlanned();
  const titles = new Map(useExercises().data?.exercises.map((one) => [one.id, one.title]));
  const minutes = sessions.reduce((sum, one) => sum + one.minutes, 0);
  return (
    <section aria-label={`Week of ${week}`}>
      <h2 className="flex flex-wrap items-baseline gap-x-3 text-lg">
        Week of {day(week, { day: "numeric", month: "long" })}
        <span className="caption">
          {sessions.length === 1 ? "one session" : `${sessions.length} sessions`}, {minutes} minutes
        </span>
      </h2>
      <Problem of={change.error} />
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {sessions.map((one) => (
          <li key={one.id} className="grid grid-cols-[110px_1fr_auto] gap-x-4 py-2">
            <span>
              {day(one.begins, { weekday: "short", day: "numeric", month: "short" })}
              <br />
              {one.begins.slice(11, 16)}, {one.minutes} min
            </span>
            <div>
              <p dir="auto">
                <b>{one.player}</b>
                {one.goal && <span className="font-serif">: {one.goal}</span>}
              </p>
              {one.exercises.map((id) => (
                <Link key={id} className="mr-3 underline" to={`/practice/${id}`}>
                  {titles.get(id) ?? "an exercise that was given up"}
                </Link>
              ))}
              {one.note && (
                <p className="text-[13px] opacity-80" dir="auto">
                  {one.note}
                </p>
              )}
            </div>
            <button
              className="chip self-start"
              disabled={change.isPending}
              onClick={() => {
                change.mutate(one.id);
              }}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const EMPTY = { player: "", begins: "", minutes: "60", goal: "", note: "" };

function NewSession() {
  const players = usePlayers().data?.players ?? [];
  const exercises = useExercises().data?.exercises ?? [];
  const change = usePlanned();
  const [told, setTold] = useState(EMPTY);
  const [chosen, setChosen] = useState<string[]>([]);
  const set = (patch: Partial<typeof EMPTY>) => {
    setTold({ ...told, ...patch });
  };
  return (
    <form
      className="sheet grid gap-3 p-3 sm:grid-cols-[1fr_190px_110px]"
      aria-label="A session"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate(
          { ...told, id: crypto.randomUUID(), minutes: Number(told.minutes), exercises: chosen },
          {
            onSuccess: () => {
              set({ begins: "", goal: "", note: "" });
              setChosen([]);
            },
          },
        );
      }}
    >
      <label className="flex flex-col">
        who
        <input
          className="input input-sm w-full"
          list="who"
          required
          maxLength={100}
          value={told.player}
          onChange={(event) => {
            set({ player: event.target.value });
          }}
        />
        <datalist id="who">
          {players.map((one) => (
            <option key={one.id} value={one.name} />
          ))}
        </datalist>
      </label>
      <label className="flex flex-col">
        when
        <input
          type="datetime-local"
          className="input input-sm w-full"
          required
          value={told.begins}
          onChange={(event) => {
            set({ begins: event.target.value });
          }}
        />
      </label>
      <label className="flex flex-col">
        minutes
        <input
          type="number"
          className="input input-sm w-full"
          min={5}
          max={600}
          required
          value={told.minutes}
          onChange={(event) => {
            set({ minutes: event.target.value });
          }}
        />
      </label>
      <label className="flex flex-col sm:col-span-3">
        goal
        <input
          className="input input-sm w-full"
          maxLength={200}
          value={told.goal}
          onChange={(event) => {
            set({ goal: event.target.value });
          }}
        />
      </label>
      {exercises.length > 0 && (
        <fieldset className="flex flex-wrap gap-1 sm:col-span-3">
          <legend className="mb-1">exercises</legend>
          {exercises.map((one) => (
            <button
              key={one.id}
              type="button"
              className="chip"
              aria-pressed={chosen.includes(one.id)}
              onClick={() => {
                setChosen(
                  chosen.includes(one.id) ? chosen.filter((id) => id !== one.id) : [...chosen, one.id],
                );
              }}
            >
              {one.title}
            </button>
          ))}
        </fieldset>
      )}
      <label className="flex flex-col sm:col-span-2">
        note
        <input
          className="input input-sm w-full"
          maxLength={2000}
          value={told.note}
          onChange={(event) => {
            set({ note: event.target.value });
          }}
        />
      </label>
      <button className="btn btn-primary btn-sm self-end" disabled={change.isPending}>
        plan it
      </button>
      <Problem of={change.error} />
    </form>
  );
}
