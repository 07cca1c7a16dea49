/** The match's title and score. */
import type { Game } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { open } from "../model/state";
import { named } from "./Board";

export function Score({ game }: { game: Game }) {
  const { race } = disciplineOf(game.header.discipline);
  const { race_to, session } = game.header;
  const sets = Number(game.rules["sets"] ?? 1) > 1;
  const alone = session === "solo";
  const both = session === "both-sides";
  return (
    <>
      <h1 className="min-w-0 max-w-md truncate text-[17px]">
        <button
          className="max-w-full cursor-pointer truncate hover:underline"
          title="About this match"
          dir="auto"
          onClick={() => {
            open("about");
          }}
        >
          {String(game.header.title ?? "Match")}
        </button>
      </h1>
      <span data-testid="score">
        {named(game, "A")} {both && "on both sides, A "}
        <b>{game.score["A"]}</b>
        {!alone && (
          <>
            {" "}
            : <b>{game.score["B"]}</b> {both ? "B" : named(game, "B")}
          </>
        )}
        <span className="opacity-70">
          {sets && ` · sets ${game.sets["A"]} : ${game.sets["B"]} of ${game.rules["sets"]}`}
          {race_to ? ` · to ${race_to} ${race}` : ""}
          {game.winner ? ` · ${named(game, game.winner)} won` : ""}
        </span>
      </span>
    </>
  );
}
