/** The match card: what both players did, counted, each figure with its sample. */
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";

import { answered, api } from "../../api/client";
import type { Game, Mean, MatchSheet, Rate, SheetCard, SheetFigures } from "../../api/types";
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
        <span className="ml-auto flex flex-wrap gap-1">
          {(["csv", "xlsx"] as const).map((form) => (
            <a key={form} className="chip" href={`/api/games/${game.id}/export?form=${form}`} download>
              shots as {form}
            </a>
          ))}
          {(game.header.recordings ?? []).length > 0 &&
            (["vtt", "txt"] as const).map((form) => (
              <a key={form} className="chip" href={`/api/games/${game.id}/export?form=${form}`} download>
                chapters as {form}
              </a>
            ))}
        </span>
      </div>
      <div className="overflow-x-auto">
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
      </div>
      <div className="mt-4 grid gap-6 md:grid-cols-2">
        {names.map((name) => {
          const card = query.data?.cards[name];
          return card ? <Families key={name} name={name} card={card} /> : null;
        })}
      </div>
    </section>
  );
}

/** What came up most, and what breaks led to. */
function Families({ name, card }: { name: string; card: SheetCard }) {
  const sorts = [
    ["pots that came up most", "made", card.pots],
    ["position that came up most", "in its zone", card.position],
  ] as const;
  return (
    <div>
      <h3 className="font-semibold" dir="auto">
        {name}
      </h3>
      {sorts.map(([title, good, families]) => (
        <div key={title} className="mt-1">
          <h4 className="caption">
            {title}: {good}
          </h4>
          {families.length === 0 && (
            <p className="text-[12px] opacity-75">None was logged so that it tells.</p>
          )}
          <dl className="grid grid-cols-[1fr_auto] gap-x-3 text-[13px]">
            {families.map((family) => (
              <Line key={family.words} words={family.words} of={family.rate} />
            ))}
          </dl>
        </div>
      ))}
      {card.breaks.length > 0 && (
        <div className="mt-1">
          <h4 className="caption">breaks by the cue ball’s place: balls, dry, won</h4>
          <dl className="grid grid-cols-[1fr_auto] gap-x-3 text-[13px]">
            {card.breaks.map((one) => (
              <Fragment key={one.name}>
                <dt>from {one.name}</dt>
                <dd>
                  {one.balls.mean?.toFixed(1) ?? "–"} a break, {share(one.dry)} dry, {share(one.won)} won
                </dd>
              </Fragment>
            ))}
            <Line words="run out from the own break" of={card.runs} />
            <Line words="run out after the other’s dry break" of={card.after_dry} />
          </dl>
        </div>
      )}
    </div>
  );
}

const share = ({ p, n }: Rate) => (p === null ? "–" : `${Math.round(p * n)} of ${n}`);

function Line({ words, of }: { words: string; of: Rate }) {
  return (
    <>
      <dt>{words}</dt>
      <dd>{rate(of) ?? "–"}</dd>
    </>
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
    ["balls on the break", ({ breaks }) => (breaks ? mean(breaks.balls, 1, "", 0) : null)],
    ["dry breaks", ({ breaks }) => (breaks ? rate(breaks.dry) : null)],
    [`${scratch} on the break`, ({ breaks }) => (breaks ? rate(breaks.scratch) : null)],
    [points && !goes_on ? "highest break" : best, count((one) => one.high_break ?? one.high_run)],
    ["balls an inning", (one) => (one.balls_per_inning === null ? null : one.balls_per_inning.toFixed(1))],
    ["innings", count((one) => one.innings)],
    ["fouls", count((one) => one.fouls)],
    [scratch, count((one) => one.scratches)],
    ["seconds a shot", ({ shot_time }) => (shot_time ? mean(shot_time, 1, "s", 0) : null)],
    [`${rack}s won`, (one) => rate(one.racks_won)],
  ];
}

function rate({ p, low, high, n }: Rate): string | null {
  if (p === null) return null;
  return `${percent(p)} (${Math.round(100 * low)} to ${Math.round(100 * high)}), ${Math.round(p * n)} of ${n}`;
}

/** What cannot be less than `least` is not said to be. */
function mean(
  { mean: value, low, high, n }: Mean,
  scale: number,
  unit: string,
  least = -Infinity,
): string | null {
  if (value === null) return null;
  const ends =
    low === null || high === null
      ? ""
      : ` (${(scale * Math.max(low, least)).toFixed(1)} to ${(scale * high).toFixed(1)})`;
  return `${(scale * value).toFixed(1)}${unit && ` ${unit}`}${ends}, n ${n}`.replaceAll("-", "−");
}
