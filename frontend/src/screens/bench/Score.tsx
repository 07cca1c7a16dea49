/** The match's title and score. */
import type { Game } from "../../api/types";

export function Score({ game }: { game: Game }) {
  const players = game.header.players as Record<string, { name?: string }> | undefined;
  const name = (seat: string) => players?.[seat]?.name ?? seat;
  return (
    <>
      <h1 className="truncate text-[17px]">{String(game.header.title ?? "Match")}</h1>
      <span data-testid="score">
        {name("A")} <b>{game.score["A"]}</b> : <b>{game.score["B"]}</b> {name("B")}
        <span className="opacity-70">
          {" "}
          · race to {game.header.race_to ?? "–"}
          {game.winner ? ` · ${name(game.winner)} won` : ""}
        </span>
      </span>
    </>
  );
}
