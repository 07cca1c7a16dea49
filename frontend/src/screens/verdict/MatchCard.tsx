/** The match card: what both players did, counted, each figure with its sample. */
import { useQuery } from "@tanstack/react-query";

import { answered, api } from "../../api/client";
import type { Game, Mean, MatchSheet, Rate, SheetFigures } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { percent } from "../../words";
import { named } from "../bench/panels/Board";

type Of = (figures: SheetFigures) => string | null;

export function MatchCard({ game }: { game: Game }) {
  const query = useQuery({
    queryKey: ["sheet", game.id, game.last_change],
    queryFn: () =>
      answered<MatchSheet>(api.GET("/api/games/{game_id}/sheet", { params: { path: { game_id: game.id } } })),
    placeholderData: (before) => before,
  });
  const names = (["A", "B"] as const)
    .map((seat) => named(game, seat))
    .filter((name) => query.data?.players[name]);
  const lines = linesFor(game).map(([words, of]) => ({
    words,
    values: names.map((name) => {
      const figures = query.data?.players[name];
      return figures ? of(figures) : null;
    }),
  }));
  if (names.length === 0) return null;
  return (
    <section aria-label="Match card">
      <div className="flex flex-wrap items-baseline gap-3">
        <h2 className="text-lg">Match card</h2>
        <span className="caption">counted from the log; intervals are 95 %</span>
        <span className="ml-auto flex gap-1">
          {(["csv", "xlsx"] as const).map((form) => (
            <a key={form} className="chip" href={`/api/games/${game.id}/export?form=${form}`} download>
              shots as {form}
            </a>
          ))}
        </span>
      </div>
      <table className="w-full" data-testid="match-card">
        <thead>
          <tr>
            <td />
            {names.map((name) => (
              <th key={name} scope="col" className="text-left" dir="auto">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines
            .filter(({ values }) => values.some((value) => value !== null))
            .map(({ words, values }) => (
              <tr key={words} className="border-t border-base-300">
                <th scope="row" className="py-0.5 pr-3 text-left font-normal">
                  {words}
                </th>
                {values.map((value, at) => (
                  <td key={names[at]}>{value ?? "–"}</td>
                ))}
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}

function linesFor(game: Game): [string, Of][] {
  const { rack, best, scratch, points, goes_on } = disciplineOf(game.header.discipline);
  const count =
    (of: (figures: SheetFigures) => number | null): Of =>
    (figures) => {
      const value = of(figures);
      return value === null ? null : String(value);
    };
  return [
    ["pots made", (one) => rate(one.pots)],
    ["made, but with a foul", count((one) => one.potted_but_foul)],
    ["cue ball in its zone", ({ position }) => (position.n ? `${position.inside} of ${position.n}` : null)],
    ["long (+) or short (−)", ({ position }) => mean(position.along, 100, "cm")],
    ["safeties not attacked", ({ safeties }) => rate(safeties.not_attacked)],
    ["safeties that hid every ball", ({ safeties }) => rate(safeties.hidden)],
    ["escapes that hit", (one) => rate(one.escapes)],
    ["attack visits converted", (one) => rate(one.attack_visits)],
    ["run-outs, of all visits", (one) => rate(one.run_outs)],
    ["balls on the break", ({ breaks }) => (breaks ? mean(breaks.balls, 1, "") : null)],
    ["dry breaks", ({ breaks }) => (breaks ? rate(breaks.dry) : null)],
    [`${scratch} on the break`, ({ breaks }) => (breaks ? rate(breaks.scratch) : null)],
    [points && !goes_on ? "highest break" : best, count((one) => one.high_break ?? one.high_run)],
    ["balls an inning", (one) => (one.balls_per_inning === null ? null : one.balls_per_inning.toFixed(1))],
    ["innings", count((one) => one.innings)],
    ["fouls", count((one) => one.fouls)],
    [scratch, count((one) => one.scratches)],
    ["seconds a shot", ({ shot_time }) => (shot_time ? mean(shot_time, 1, "s") : null)],
    [`${rack}s won`, (one) => rate(one.racks_won)],
  ];
}

function rate({ p, low, high, n }: Rate): string | null {
  if (p === null) return null;
  return `${percent(p)} (${Math.round(100 * low)} to ${Math.round(100 * high)}), ${Math.round(p * n)} of ${n}`;
}

function mean({ mean: value, low, high, n }: Mean, scale: number, unit: string): string | null {
  if (value === null) return null;
  const ends =
    low === null || high === null ? "" : ` (${(scale * low).toFixed(1)} to ${(scale * high).toFixed(1)})`;
  return `${(scale * value).toFixed(1)}${unit && ` ${unit}`}${ends}, n ${n}`.replaceAll("-", "−");
}
