/** The first page: matches to find, open, begin, bring in and take out, those worked on last first; recordings beside. */
import { useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";

import { answered, api } from "../../api/client";
import { reversed, useGames, useMoments, useUnfinished } from "../../api/queries";
import type { GameList } from "../../api/types";
import { More } from "../../parts/More";
import { Problem } from "../../parts/Problem";
import { Recordings } from "../recordings/Recordings";
import { AboutMatch } from "./AboutMatch";
import { DeleteMatch } from "./DeleteMatch";
import { Filters, useSought } from "./Filters";
import { FirstSteps } from "./FirstSteps";
import { ImpossibleEntries } from "./ImpossibleEntries";
import { KnownMatch } from "./KnownMatch";
import { MatchLine, type Line } from "./MatchLine";
import { NewMatch } from "./NewMatch";
import { useMatchFiles } from "./useMatchFiles";

export function Matches() {
  const [sought, onSought, onClear] = useSought();
  const list = useGames(useDeferredValue(sought));
  const queries = useQueryClient();
  const files = useMatchFiles();
  const [fresh, setFresh] = useState(false);
  const [about, setAbout] = useState<string | null>(null);
  const [going, setGoing] = useState<Line | null>(null);
  const [problem, setProblem] = useState<unknown>(null);
  const shown = list.games ?? [];
  const unfinished = useUnfinished(shown.map((game) => game.id));
  const looking = Object.keys(sought).length > 0;
  const empty = list.games?.length === 0 && !looking && list.deleted.length === 0;

  const does = async (work: Promise<unknown>) => {
    setProblem(null);
    await work.catch(setProblem);
    await Promise.all(
      ["games", "figures", "players"].map((key) => queries.invalidateQueries({ queryKey: [key] })),
    );
  };
  const remove = (id: string) =>
    does(answered(api.DELETE("/api/games/{game_id}", { params: { path: { game_id: id } } })));

  return (
    <div className="mx-auto grid w-full max-w-6xl gap-10 p-4 sm:p-6 lg:grid-cols-[3fr_2fr]">
      <section aria-label="Matches" className="min-w-0">
        <div className="mb-3 flex flex-wrap items-baseline gap-3">
          <h1 className="mr-auto text-2xl">Matches</h1>
          <Link className="underline" to="/first-hour">
            A coach&rsquo;s first hour
          </Link>
          <label className="btn btn-sm">
            Import
            <input
              type="file"
              accept="application/json,.json"
              multiple
              className="sr-only"
              onChange={(event) => {
                void files.bringIn([...(event.target.files ?? [])]);
                event.target.value = "";
              }}
            />
          </label>
          <button
            className="btn btn-sm btn-primary"
            onClick={() => {
              setFresh(true);
            }}
          >
            New match
          </button>
        </div>
        <Problem of={problem ?? files.problem ?? list.error} />
        {files.coming && <Coming {...files.coming} />}
        {empty ? (
          <FirstSteps
            onNew={() => {
              setFresh(true);
            }}
          />
        ) : (
          <Filters sought={sought} onSought={onSought} onClear={onClear} />
        )}
        {looking && list.games?.length === 0 && <p className="py-3 opacity-80">No match is like that.</p>}
        {shown.length > 0 && (
          <ul aria-label="List of matches" className="divide-y divide-base-300 border-y border-base-300">
            {shown.map((game) => (
              <MatchLine
                key={game.id}
                game={game}
                unfinished={unfinished[game.id]}
                onAbout={() => {
                  setAbout(game.id);
                }}
                onDelete={() => {
                  setGoing(game);
                }}
              />
            ))}
          </ul>
        )}
        <More shown={shown.length} n={list.n} more={list.more} />
        <Moments search={sought.search ?? ""} />
        <Deleted games={list.deleted} onBack={(id) => void does(reversed(id, "undo", 0))} />
      </section>
      <Recordings />
      {files.strange && (
        <ImpossibleEntries
          places={files.strange.places}
          onKeep={() => void (files.strange && files.bringIn([files.strange.file], true))}
          onClose={files.forget}
        />
      )}
      {files.known && (
        <KnownMatch
          message={files.known.message}
          onChoose={(same) => void (files.known && files.bringIn([files.known.file], files.known.keep, same))}
          onClose={files.forget}
        />
      )}
      {fresh && (
        <NewMatch
          onClose={() => {
            setFresh(false);
          }}
        />
      )}
      {about && (
        <AboutMatch
          id={about}
          onClose={() => {
            setAbout(null);
          }}
        />
      )}
      {going && (
        <DeleteMatch
          game={going}
          onClose={() => {
            setGoing(null);
          }}
          onDelete={() => {
            setGoing(null);
            void remove(going.id);
          }}
        />
      )}
    </div>
  );
}

function Coming({ name, number, of }: { name: string; number: number; of: number }) {
  return (
    <p role="status" className="mb-2 flex items-center gap-3 text-[12px]">
      <progress
        className="progress progress-primary w-32"
        value={of > 1 ? number : undefined}
        max={of}
        aria-label="Brought in"
      />
      {of > 1 && `${String(number + 1)} of ${String(of)}: `}
      {name}
    </p>
  );
}

/** Shots and racks whose notes hold the words that are looked for. */
function Moments({ search }: { search: string }) {
  const moments = useMoments(useDeferredValue(search));
  if (!moments.length) return null;
  return (
    <section aria-label="Moments" className="mt-4" data-testid="moments">
      <h2 className="mb-1 text-lg">Moments</h2>
      <ul>
        {moments.map((one) => (
          <li key={one.shot} className="truncate py-0.5">
            <Link className="hover:underline" to={`/match/${one.game}?shot=${one.shot}`}>
              <bdi>{one.title}</bdi>: <i dir="auto">{one.note}</i>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What was deleted in the last 30 days, each to be had back. */
function Deleted({ games, onBack }: { games: GameList["deleted"]; onBack: (id: string) => void }) {
  if (!games.length) return null;
  return (
    <details className="mt-4 text-sm" open={games.length === 1}>
      <summary className="cursor-pointer opacity-75">Deleted in the last 30 days: {games.length}</summary>
      <ul className="mt-2">
        {games.map((game) => (
          <li key={game.id} className="flex items-center gap-4 py-1">
            <span className="min-w-0 flex-1 truncate">
              <bdi>{game.title}</bdi>, {game.shots} shots
            </span>
            <button
              className="btn btn-ghost btn-xs"
              onClick={() => {
                onBack(game.id);
              }}
            >
              Have it back
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
