/** Without a recording: what the coach has written about this rack, each note a way to its shot. */
import type { Game } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { named } from "./Board";

interface Props {
  game: Game;
  rack: number;
  onShot: (shot: string) => void;
}

export function RackNotes({ game, rack, onShot }: Props) {
  const one = game.racks[rack];
  const noted = (one?.shots ?? [])
    .map((shot, index) => ({ shot, index }))
    .filter(({ shot }) => shot.document.note);
  const said = one?.document.note;
  if (!one || (!noted.length && !said)) return null;
  return (
    <section aria-label="Written about it" className="w-full min-w-0 text-left">
      <h2 className="mb-1 text-[15px]">
        Notes of {disciplineOf(game.header.discipline).rack} {rack + 1}
      </h2>
      {said && <p className="mb-1">{said}</p>}
      <ol className="space-y-1">
        {noted.map(({ shot, index }) => (
          <li key={shot.id}>
            <button
              className="cursor-pointer text-left hover:underline"
              onClick={() => {
                onShot(shot.id);
              }}
            >
              <b>{index + 1}</b>{" "}
              <span className="opacity-70">{named(game, shot.document.player ?? "A")}:</span>{" "}
              {shot.document.note}
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
