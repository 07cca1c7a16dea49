/** The moments that the coach picked, in his order: a report with them, or a film of them. */
import { useState } from "react";

import { useFilm, useGiveUpFilm, useMakeFilm } from "../../api/clips";
import type { Game } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { Problem } from "../../parts/Problem";
import { named } from "../bench/panels/Board";
import type { Moment } from "./model";

interface Props {
  game: Game;
  moments: Moment[];
  onChange: (shots: string[]) => void;
}

export function Picked({ game, moments, onChange }: Props) {
  const shots = moments.map((one) => one.shot.id);
  if (shots.length === 0) return null;
  return (
    <section aria-label="Picked moments" className="sheet space-y-2 p-3">
      <div className="flex flex-wrap items-baseline gap-3">
        <h3 className="text-[15px]">Picked, in this order</h3>
        <button
          className="chip ml-auto"
          onClick={() => {
            onChange([]);
          }}
        >
          none of them
        </button>
      </div>
      <Order game={game} moments={moments} onChange={onChange} />
      <ReportOf game={game} shots={shots} />
      <Film key={shots.join()} game={game.id} shots={shots} />
    </section>
  );
}

function Order({ game, moments, onChange }: Props) {
  const shots = moments.map((one) => one.shot.id);
  const { rack } = disciplineOf(game.header.discipline);
  const swap = (at: number) => {
    onChange(shots.map((id, index) => shots[index === at ? at - 1 : index === at - 1 ? at : index] ?? id));
  };
  return (
    <ol className="flex flex-wrap gap-2 text-[13px]">
      {moments.map((one, at) => {
        const words = `${rack} ${one.rack + 1}, shot ${one.index + 1}`;
        return (
          <li key={one.shot.id} className="flex items-center gap-1">
            {at > 0 && (
              <button
                className="chip"
                aria-label={`${words} earlier`}
                onClick={() => {
                  swap(at);
                }}
              >
                ←
              </button>
            )}
            {words}
          </li>
        );
      })}
    </ol>
  );
}

function ReportOf({ game, shots }: { game: Game; shots: string[] }) {
  const [words, setWords] = useState("");
  return (
    <div className="flex flex-wrap items-end gap-2">
      <label className="flex min-w-64 flex-1 flex-col text-[13px]">
        what you say to it
        <textarea
          className="textarea textarea-sm w-full"
          rows={2}
          maxLength={1500}
          value={words}
          onChange={(event) => {
            setWords(event.target.value);
          }}
        />
      </label>
      {(["A", "B"] as const).map((seat) => {
        const player = named(game, seat);
        const asked = new URLSearchParams({ player, shots: shots.join(","), words });
        return (
          <a
            key={seat}
            className="btn btn-sm"
            href={`/api/games/${game.id}/report/pdf?${asked.toString()}`}
            target="_blank"
            rel="noreferrer"
          >
            report for {player}
          </a>
        );
      })}
    </div>
  );
}

function Film({ game, shots }: { game: string; shots: string[] }) {
  const [sound, setSound] = useState(true);
  const make = useMakeFilm(game);
  const giveUp = useGiveUpFilm();
  const film = useFilm(make.data?.clip).data;
  return (
    <div className="flex flex-wrap items-center gap-3" data-testid="film">
      <label className="flex items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={sound}
          onChange={(event) => {
            setSound(event.target.checked);
            make.reset();
          }}
        />
        the room is heard
      </label>
      {film?.state === "done" ? (
        <a className="btn btn-primary btn-sm" href={`/api/clips/${film.clip}/file`} download="moments.mp4">
          take the film away
        </a>
      ) : film?.state === "running" ? (
        <span role="status" className="flex items-center gap-2">
          <progress className="progress w-32" value={film.progress} max={1} aria-label="The film is made" />
          <button
            className="chip"
            onClick={() => {
              giveUp.mutate(film.clip);
              make.reset();
            }}
          >
            stop
          </button>
        </span>
      ) : (
        <button
          className="btn btn-sm"
          disabled={make.isPending}
          onClick={() => {
            make.mutate({ shots, sound });
          }}
        >
          make a film of them
        </button>
      )}
      <Problem of={make.error ?? (film?.state === "failed" ? new Error(film.said) : null)} />
      <p className="caption w-full">
        A film shows people: give it to those who are in it. It is kept here for a day.
      </p>
    </div>
  );
}
