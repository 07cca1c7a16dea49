/** The moments that were picked, as a small film: what was better is drawn and said in it. */
import { useState } from "react";

import { useFilm, useGiveUpFilm, useMakeFilm } from "../../api/clips";
import { Problem } from "../../parts/Problem";

interface Props {
  game: string;
  shots: string[];
  onClear: () => void;
}

export function FilmOfMoments({ game, shots, onClear }: Props) {
  const [sound, setSound] = useState(true);
  const make = useMakeFilm(game);
  const giveUp = useGiveUpFilm();
  const film = useFilm(make.data?.clip).data;
  const clear = () => {
    make.reset();
    onClear();
  };
  if (shots.length === 0) return null;
  return (
    <section aria-label="Film of the moments" className="sheet flex flex-wrap items-center gap-3 p-3">
      <span>
        {shots.length === 1 ? "One moment" : `${shots.length} moments`} for a film, in the order they were
        picked
      </span>
      <label className="flex items-center gap-2">
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
          className="btn btn-primary btn-sm"
          disabled={make.isPending}
          onClick={() => {
            make.mutate({ shots, sound });
          }}
        >
          make the film
        </button>
      )}
      <button className="chip" onClick={clear}>
        none of them
      </button>
      <Problem of={make.error ?? (film?.state === "failed" ? new Error(film.said) : null)} />
      <p className="caption w-full">
        A film shows people: give it to those who are in it. It is kept here for a day.
      </p>
    </section>
  );
}
