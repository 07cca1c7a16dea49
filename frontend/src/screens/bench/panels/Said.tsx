/** What the bench has to say: a problem, an answer to the last action, or what the tool waits for. */
import type { Game } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { useBench } from "../model/state";

export function Said({ problem }: { problem: Error | null }) {
  const { said, tool, placing } = useBench();
  const next = placing === "cue" ? "cue ball" : `${placing ?? ""} ball`;
  const waiting = placing ? `Click the ${next} in the picture or on the plan.` : "Every ball is placed.";
  return (
    <p
      role="status"
      aria-live="polite"
      className="min-h-5 px-3 text-[12px] text-secondary"
      data-testid="said"
    >
      {problem ? (
        <span className="text-error">{problem.message}</span>
      ) : (
        (said ?? (tool === "place" ? waiting : ""))
      )}
    </p>
  );
}

export function Trouble({ game, rack }: { game: Game; rack: number }) {
  const trouble = game.trouble.find((one) => one.rack === rack);
  if (!trouble) return null;
  return (
    <p role="alert" className="mx-3 mb-1 border-l-2 border-error pl-2 text-error first-letter:uppercase">
      {disciplineOf(game.header.discipline).rack} {trouble.rack + 1}, shot {trouble.shot + 1} cannot have
      happened like this: {trouble.message}. Correct it, or overrule it with a note.
    </p>
  );
}
