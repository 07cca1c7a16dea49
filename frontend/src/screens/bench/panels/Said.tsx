/** What the bench has to say: a problem, an answer to the last action, or what the tool waits for. */
import { useEffect } from "react";

import type { Game } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { say, useBench } from "../model/state";

const HOLDS = 15_000; // ms; what a tool waits for stays as long as it is in hand

export function Said({ problem }: { problem: Error | null }) {
  const { said, tool, placing } = useBench();
  useEffect(() => {
    if (said === null || tool !== "look") return;
    const timer = setTimeout(() => {
      say(null);
    }, HOLDS);
    return () => {
      clearTimeout(timer);
    };
  }, [said, tool]);
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
