/** The first page: matches to open, begin, bring in and take out; recordings beside them. */
import { useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link, useNavigate } from "react-router";

import { Refusal, answered, api, raw, type PlaceOfTrouble } from "../../api/client";
import { reversed, useGames } from "../../api/queries";
import type { Game, GameList } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { More } from "../../parts/More";
import { Problem } from "../../parts/Problem";
import { Search } from "../../parts/Search";
import { Recordings } from "../recordings/Recordings";
import { ImpossibleEntries } from "./ImpossibleEntries";
import { KnownMatch, type Same } from "./KnownMatch";
import { NewMatch } from "./NewMatch";

const ALONE = ["solo", "both-sides"];

const sidesOf = ({ players, session }: GameList["games"][number]) =>
  ALONE.includes(session) ? (players["A"] ?? "A") : `${players["A"] ?? "A"} – ${players["B"] ?? "B"}`;

export function Matches() {
  const [search, setSearch] = useState("");
  const list = useGames(useDeferredValue(search));
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [fresh, setFresh] = useState(false);
  const [problem, setProblem] = useState<unknown>(null);
  const [coming, setComing] = useState<{ name: string; number: number; of: number } | null>(null);
  const [strange, setStrange] = useState<{ file: File; places: PlaceOfTrouble[] } | null>(null);
  const [known, setKnown] = useState<{ file: File; keep: boolean; message: string } | null>(null);

  const refresh = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: ["games"] }),
      queries.invalidateQueries({ queryKey: ["figures"] }),
    ]);
  const remove = async (id: string) => {
    setProblem(null);
    await answered(api.DELETE("/api/games/{game_id}", { params: { path: { game_id: id } } })).catch(
      setProblem,
    );
    await refresh();
  };
  const haveBack = async (id: string) => {
    setProblem(null);
    await reversed(id, "undo", 0).catch(setProblem);
    await refresh();
  };
  const bringIn = async (files: File[], keep = false, same: Same = "ask") => {
    setProblem(null);
    setStrange(null);
    setKnown(null);
    let game: Game | null = null;
    for (const [number, file] of files.entries()) {
      setComing({ name: file.name, number, of: files.length });
      try {
        const headers = { "Content-Type": "application/json" };
        const answer = await raw(`/api/games/import?keep=${keep}&same=${same}`, {
          method: "POST",
          body: file,
          headers,
        });
        game = (await answer.json()) as Game;
      } catch (failure) {
        if (failure instanceof Refusal && failure.places.length) setStrange({ file, places: failure.places });
        else if (failure instanceof Refusal && failure.status === 409)
          setKnown({ file, keep, message: failure.message.replace(/^id: /, "") });
        else setProblem(new Error(`${file.name}: ${failure instanceof Error ? failure.message : "refused"}`));
        game = null;
        break; // those before it are in, those after it are not
      }
    }
    setComing(null);
    await refresh();
    if (game && files.length === 1) await navigate(`/match/${game.id}`);
  };

  return (
    <div className="mx-auto grid w-full max-w-6xl gap-10 p-6 lg:grid-cols-[3fr_2fr]">
      <section aria-label="Matches" className="min-w-0">
        <div className="mb-3 flex flex-wrap items-baseline gap-3">
          <h1 className="mr-auto text-2xl">Matches</h1>
          <label className="btn btn-sm">
            Import
            <input
              type="file"
              accept="application/json,.json"
              multiple
              className="sr-only"
              onChange={(event) => {
                void bringIn([...(event.target.files ?? [])]);
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
        <Problem of={problem ?? list.error} />
        {coming && (
          <p role="status" className="mb-2 flex items-center gap-3 text-[12px]">
            <progress
              className="progress progress-primary w-32"
              value={coming.of > 1 ? coming.number : undefined}
              max={coming.of}
              aria-label="Brought in"
            />
            {coming.of > 1 && `${String(coming.number + 1)} of ${String(coming.of)}: `}
            {coming.name}
          </p>
        )}
        {list.games?.length === 0 && !search && (
          <p className="py-6 opacity-80">
            Nothing here yet. Begin a match, or import one; <code>./aretane demo</code> brings one of an
            invented club.
          </p>
        )}
        {(search || list.more) && (
          <div className="mb-2">
            <Search label="Find a match" placeholder="title or player" value={search} onChange={setSearch} />
          </div>
        )}
        {list.games?.length === 0 && search && <p className="py-3 opacity-80">No match is called so.</p>}
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {list.games?.map((game) => (
            <li key={game.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-3">
              <Link
                to={`/match/${game.id}`}
                className="min-w-0 basis-full hover:underline sm:flex-1 sm:basis-0"
              >
                <div className="truncate font-serif text-[16px]">{game.title}</div>
                <div className="truncate opacity-75">
                  {sidesOf(game)}, {disciplineOf(game.discipline).title.toLowerCase()}
                  {game.session === "match" ? "" : `, ${game.session}`}
                </div>
              </Link>
              <span className="whitespace-nowrap opacity-75">
                {game.racks} {disciplineOf(game.discipline).rack}
                {game.racks === 1 ? "" : "s"}, {game.shots} shots
              </span>
              <a className="btn btn-ghost btn-xs" href={`/api/games/${game.id}/export`} download>
                Export
              </a>
              <button className="btn btn-ghost btn-xs" onClick={() => void remove(game.id)}>
                Delete
              </button>
            </li>
          ))}
        </ul>
        <More shown={list.games?.length ?? 0} n={list.n} more={list.more} />
        <Deleted games={list.deleted} onBack={(id) => void haveBack(id)} />
      </section>
      <Recordings />
      {strange && (
        <ImpossibleEntries
          places={strange.places}
          onKeep={() => void bringIn([strange.file], true)}
          onClose={() => {
            setStrange(null);
          }}
        />
      )}
      {known && (
        <KnownMatch
          message={known.message}
          onChoose={(same) => void bringIn([known.file], known.keep, same)}
          onClose={() => {
            setKnown(null);
          }}
        />
      )}
      {fresh && (
        <NewMatch
          onClose={() => {
            setFresh(false);
          }}
        />
      )}
    </div>
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
              {game.title}, {game.shots} shots
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
