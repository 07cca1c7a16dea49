/** The shots behind a figure, each a way back to its moment. */
import { Link } from "react-router";

import type { ShotList } from "../../api/types";
import { More } from "../../parts/More";
import { Problem } from "../../parts/Problem";
import { SIGNS, pocketWords } from "../../words";

interface Props {
  title: string;
  n: number | undefined;
  shots: ShotList["shots"];
  more: (() => void) | null;
  error: unknown;
}

export function ShotsList({ title, n, shots, more, error }: Props) {
  return (
    <section aria-label="Shots behind the figure" className="sheet p-3" data-testid="behind">
      <h2 className="mb-2 text-lg">
        {n ?? "…"} {n === 1 ? "shot" : "shots"}: {title}
      </h2>
      <Problem of={error} />
      <ul className="max-h-[70vh] overflow-y-auto">
        {shots.map(({ game_id, shot_id, player_name, discipline, figures: shot }) => (
          <li key={shot_id}>
            <Link className="flex gap-2 py-0.5 hover:underline" to={`/match/${game_id}?shot=${shot_id}`}>
              <span aria-hidden>{SIGNS[shot.result ?? ""] ?? "·"}</span>
              <span>
                rack {shot.rack + 1}, shot {shot.shot + 1}: {player_name},{" "}
                {shot.ball ? `${shot.ball} ${pocketWords(shot.pocket, discipline)}` : "no ball"}
                {shot.cut_angle !== null && `, ${((shot.cut_angle * 180) / Math.PI).toFixed(0)}°`},{" "}
                {shot.result?.replace("-", " ")}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      <More shown={shots.length} n={n ?? 0} more={more} />
    </section>
  );
}
