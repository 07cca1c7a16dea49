/** What is said of the ball that was clicked in a found shot: which one it is, or that it is none. */
import { ballName } from "../../../table/balls";
import type { Workbench } from "../model/useWorkbench";

export function Naming({ bench }: { bench: Pick<Workbench, "chosen" | "foundShots" | "game"> }) {
  const { chosen, foundShots, game } = bench;
  if (!chosen || !(chosen in foundShots.balls)) return null;
  return (
    <div className="flex flex-wrap items-center gap-1" role="group" aria-label="Which ball is it">
      <span className="caption mr-1">it is the</span>
      {game.balls.map((ball) => (
        <button
          key={ball}
          className="chip"
          aria-pressed={ball === chosen}
          aria-label={ballName(ball)}
          onClick={() => {
            if (ball !== chosen) foundShots.name(chosen, ball);
          }}
        >
          {ball}
        </button>
      ))}
      <button
        className="chip"
        onClick={() => {
          foundShots.noBall(chosen);
        }}
      >
        no ball <span className="key">Del</span>
      </button>
    </div>
  );
}
