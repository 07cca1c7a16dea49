/** The balls that are not on the table, each ready to be placed. */
import type { Game, Places } from "../../api/types";

export function BallTray({
  game,
  balls,
  placing,
  onPick,
}: {
  game: Game;
  balls: Places;
  placing: string | null;
  onPick: (ball: string) => void;
}) {
  const missing = game.balls.filter((ball) => !balls[ball]);
  return (
    <div className="flex min-h-8 flex-wrap items-center gap-1 border-t border-base-300 px-2 py-1">
      <span className="caption mr-1">off the table</span>
      {missing.map((ball) => (
        <button
          key={ball}
          className="chip"
          aria-pressed={placing === ball}
          onClick={() => {
            onPick(ball);
          }}
        >
          {ball}
        </button>
      ))}
      {missing.length === 0 && <span className="opacity-70">none</span>}
    </div>
  );
}
