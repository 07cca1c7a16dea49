/** Breaks, runs and innings of the match so far: each best one leads back to its first shot. */
import type { Game } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { named } from "./Board";

const LISTED = 20; // the smallest snooker break that is worth a line

export function Visits({ game, onShot }: { game: Game; onShot: (shot: string) => void }) {
  const { name, best } = disciplineOf(game.header.discipline);
  if (name !== "snooker" && name !== "straight-pool") return null;
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-2 pb-1 text-[12px]" data-testid="visits">
      {(["A", "B"] as const).map((player) => {
        const figures = game.visit_figures[player];
        if (!figures?.visits) return null;
        return (
          <span key={player}>
            {named(game, player)}: {best} <b>{figures.best}</b>
            {name === "straight-pool" &&
              `, ${(figures.mean ?? 0).toFixed(1)} balls an inning (n ${figures.visits})`}
          </span>
        );
      })}
      {name === "snooker" &&
        listed(game).map(({ visit, shot }) => (
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

function listed(game: Game) {
  return game.visits
    .filter((visit) => visit.points >= LISTED)
    .map((visit) => ({ visit, shot: game.racks[visit.rack]?.shots[visit.first]?.id ?? "" }));
}
