/** The scoreboard of the rack at this entry: what is on, what is left, what each player needs. */
import type { Game } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import type { Workbench } from "./useWorkbench";

export function Board({ bench }: { bench: Workbench }) {
  const { game, board } = bench;
  if (!board) return null;
  const { name } = disciplineOf(game.header.discipline);
  const scores = name === "snooker" || name === "straight-pool";
  return (
    <p data-testid="board" className="flex flex-wrap gap-x-4 px-3 text-[12px]">
      {scores && (
        <b>
          {named(game, "A")} {board.points["A"]} – {board.points["B"]} {named(game, "B")}
        </b>
      )}
      <span>on: {board.on}</span>
      {board.run > 0 && (
        <span>
          {name === "snooker" ? "break" : "run"} {board.run}
        </span>
      )}
      <span>
        {board.left}{" "}
        {board.unit === "points" ? "points left" : board.unit === "balls" ? "balls left" : board.unit}
      </span>
      {["A", "B"].map((player) => (
        <span key={player}>{needs(game, board, player)}</span>
      ))}
    </p>
  );
}

type Shown = NonNullable<Workbench["board"]>;

/** What one player still needs, in the game's own terms; nothing where that says nothing. */
function needs(game: Game, board: Shown, player: string): string | null {
  const { name } = disciplineOf(game.header.discipline);
  const group = board.group[player];
  const left = board.needs[player];
  const fouls = board.fouls[player] ?? 0;
  const said = [
    group ? `${group}` : null,
    board.snookers[player] ? `needs ${board.snookers[player]} snookers` : null,
    left ? (name === "snooker" ? `needs ${left}` : `${left} to go`) : null,
    fouls > 0 && name !== "snooker" && game.rules["three_fouls"]
      ? `on ${fouls} ${fouls === 1 ? "foul" : "fouls"}`
      : null,
  ].filter((one) => one !== null);
  return said.length ? `${named(game, player)}: ${said.join(", ")}` : null;
}

export const named = (game: Game, seat: string): string =>
  (game.header.players as Record<string, { name?: string }> | undefined)?.[seat]?.name ?? seat;
