/** One match of the list: who played what and when, how far its review is, and what can be done with it. */
import { Link } from "react-router";

import type { GameList, Unfinished } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { useDrafts } from "../bench/model/state";
import { ALONE } from "./Fields";

export type Line = GameList["games"][number];

export const sidesOf = ({ players, session }: Line) =>
  ALONE.includes(session) ? (players["A"] ?? "A") : `${players["A"] ?? "A"} – ${players["B"] ?? "B"}`;

const IN_WORDS = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric" });

/** "12 November 2026"; what is no day as it stands. */
export function dayWords(day: string): string {
  const date = new Date(`${day}T12:00:00`);
  if (Number.isNaN(date.getTime())) return day;
  return IN_WORDS.format(date);
}

const MINUTE = 60_000;

/** "just now", "3 hours ago", "12 November 2026": when a match was last worked on. */
export function agoWords(at: string, now = Date.now()): string {
  const then = new Date(at.endsWith("Z") ? at : `${at}Z`).getTime();
  const minutes = Math.round((now - then) / MINUTE);
  if (minutes < 1) return "just now";
  if (minutes < 60) return `${String(minutes)} min ago`;
  if (minutes < 24 * 60) return `${String(Math.round(minutes / 60))} h ago`;
  if (minutes < 7 * 24 * 60) return `${String(Math.round(minutes / 60 / 24))} d ago`;
  return `on ${dayWords(new Date(then).toISOString().slice(0, 10))}`;
}

interface Props {
  game: Line;
  unfinished: Unfinished | undefined;
  onAbout: () => void;
  onDelete: () => void;
}

export function MatchLine({ game, unfinished, onAbout, onDelete }: Props) {
  const begun = useDrafts((state) => state.drafts[game.id] !== undefined);
  const { rack, title } = disciplineOf(game.discipline);
  const left = leftWords(unfinished, begun);
  return (
    <li className="match-line flex flex-wrap items-start gap-x-4 gap-y-1 py-3">
      <Link to={`/match/${game.id}`} className="min-w-0 basis-full hover:underline sm:flex-1 sm:basis-0">
        <div className="truncate font-serif text-[16px]" dir="auto">
          {game.title}
        </div>
        <div className="truncate opacity-75">
          <bdi>{sidesOf(game)}</bdi>, {title.toLowerCase()}
          {game.session === "match" ? "" : `, ${game.session.replace("-", " ")}`}
        </div>
        <div className="truncate opacity-75">
          {dayWords(game.day)}
          {game.place && (
            <>
              , <bdi>{game.place}</bdi>
            </>
          )}
        </div>
        {left && (
          <div className="text-warning" data-testid="unfinished">
            {left}
          </div>
        )}
      </Link>
      <span className="whitespace-nowrap opacity-75 sm:text-right">
        {game.racks} {rack}
        {game.racks === 1 ? "" : "s"}, {game.shots} shots
        <br className="hidden sm:inline" />
        <span className="text-[12px]">
          <span className="sm:hidden">, </span>worked on {agoWords(game.changed_at)}
        </span>
      </span>
      <span className="flex gap-1">
        <button className="btn btn-ghost btn-xs" onClick={onAbout} aria-label={`About ${game.title}`}>
          About
        </button>
        <a
          className="btn btn-ghost btn-xs"
          href={`/api/games/${game.id}/export`}
          download
          aria-label={`Export ${game.title}`}
        >
          Export
        </a>
        <button className="btn btn-ghost btn-xs" onClick={onDelete} aria-label={`Delete ${game.title}`}>
          Delete
        </button>
      </span>
    </li>
  );
}

/** "4 shots found, 2 to look at; an entry is begun": what waits for somebody. */
function leftWords(unfinished: Unfinished | undefined, begun: boolean): string {
  const { found = 0, doubtful = 0, reading = false } = unfinished ?? {};
  const shots = `${String(found)} shot${found === 1 ? "" : "s"} found, not logged yet`;
  return [
    reading ? "its recording is being read" : "",
    found ? `${shots}${doubtful ? `, ${String(doubtful)} to look at` : ""}` : "",
    begun ? "an entry is begun" : "",
  ]
    .filter(Boolean)
    .join("; ");
}
