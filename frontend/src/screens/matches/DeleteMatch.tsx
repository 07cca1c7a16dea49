/** What goes with a match that is deleted, before it does. */
import { Dialog } from "../../parts/Dialog";
import { disciplineOf } from "../../games/discipline";
import type { Line } from "./MatchLine";

interface Props {
  game: Line;
  onDelete: () => void;
  onClose: () => void;
}

export function DeleteMatch({ game, onDelete, onClose }: Props) {
  const { rack } = disciplineOf(game.discipline);
  return (
    <Dialog title="Delete this match?" onClose={onClose}>
      <p className="mb-2">
        <bdi>{game.title}</bdi> goes, with {game.racks} {rack}
        {game.racks === 1 ? "" : "s"}, {game.shots} shots, their layouts, zones, drawings and notes, and what
        was found in its recording and not logged. Its shots no longer count in any figure. The recording
        itself stays.
      </p>
      <p className="mb-3 opacity-80">
        For 30 days it can be had back as it was; it is listed below the matches.
      </p>
      <div className="flex gap-2">
        <button className="btn btn-primary btn-sm" onClick={onDelete}>
          Delete
        </button>
        <button className="btn btn-sm" onClick={onClose}>
          Keep it
        </button>
      </div>
    </Dialog>
  );
}
