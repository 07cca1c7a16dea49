/** The scoreboard of the rack at this entry: what is on, what is left, what each player needs. */
import type { Game } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import type { Workbench } from "../model/useWorkbench";

export function Board({ bench }: { bench: Pick<Workbench, "game" | "board"> }) {
  const { game, board } = bench;
  if (!board) return null;
  const { points } = disciplineOf(game.header.discipline);
  return (
    <p data-testid="board" className="flex flex-wrap gap-x-4 px-3 text-[12px]">
      {points && (
        <b>
          {named(game, "A")} {board.points["A"]} – {board.points["B"]} {named(game, "B")}
        </b>
      )}
      <span>on: {board.on}</span>
      {board.run > 0 && (
        <span>
          {board.run_word} {board.run}
        </span>
      )}
      <span>{board.left_words}</span>
      {["A", "B"].map((player) => (
        <span key={player}>
          {board.says[player] ? `${named(game, player)}: ${board.says[player]}` : null}
        </span>
      ))}
    </p>
  );
}

type Side = { name?: string; partner?: string } | undefined;

const sideOf = (game: Game, seat: string): Side =>
  (game.header.players as Record<string, Side> | undefined)?.[seat];

export const named = (game: Game, seat: string): string => sideOf(game, seat)?.name ?? seat;

/** Whether somebody plays against this side: alone, a run is the aim. */
export function opposed(game: Game, seat: string): boolean {
  const { session } = game.header;
  const other = sideOf(game, seat === "A" ? "B" : "A");
  return session !== "solo" && (session !== "partners" || Boolean(other?.name ?? other?.partner));
}
