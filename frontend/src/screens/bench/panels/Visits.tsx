/** Breaks, runs and innings of the match so far: each best one leads back to its first shot. */
import type { Game } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { named } from "./Board";

export function Visits({ game, onShot }: { game: Game; onShot: (shot: string) => void }) {
  const { points, best, goes_on, listed } = disciplineOf(game.header.discipline);
  if (!points) return null;
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-2 pb-1 text-[12px]" data-testid="visits">
      {(["A", "B"] as const).map((player) => {
        const figures = game.visit_figures[player];
        if (!figures?.visits) return null;
        return (
          <span key={player}>
            {named(game, player)}: {best} <b>{figures.best}</b>
            {goes_on && `, ${(figures.mean ?? 0).toFixed(1)} balls an inning (n ${figures.visits})`}
          </span>
        );
      })}
      {listed !== null &&
        worthALine(game, listed).map(({ visit, shot }) => (
          <button
            key={shot}
            className="chip"
            onClick={() => {
              onShot(shot);
            }}
          >
            {named(game, visit.player)} {visit.points}
          </button>
        ))}
    </div>
  );
}

function worthALine(game: Game, least: number) {
  return game.visits
    .filter((visit) => visit.points >= least)
    .map((visit) => ({ visit, shot: game.racks[visit.rack]?.shots[visit.first]?.id ?? "" }));
}
