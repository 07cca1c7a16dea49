/** A file with entries that cannot have happened: each place, and the offer to keep them as the coach's word. */
import type { PlaceOfTrouble } from "../../api/client";
import { Dialog } from "../../parts/Dialog";

interface Props {
  places: PlaceOfTrouble[];
  onKeep: () => void;
  onClose: () => void;
}

export function ImpossibleEntries({ places, onKeep, onClose }: Props) {
  return (
    <Dialog title="Some entries cannot have happened" onClose={onClose} wide>
      <p className="mb-2">
        Nothing has been imported yet. {places.length === 1 ? "One entry is" : `${places.length} entries are`}{" "}
        against the rules as the file has them:
      </p>
      <ol className="sheet mb-3 max-h-64 space-y-1 overflow-auto p-2" data-testid="impossible">
        {places.map((place) => (
          <li key={`${place.rack} ${place.shot}`}>
            <b>
              Rack {place.rack + 1}, shot {place.shot + 1}
            </b>
            : {place.message}
          </li>
        ))}
      </ol>
      <p className="mb-3 opacity-80">
        Kept, they stand as your word: each carries a note that names the rule, and the score follows. You can
        correct them on the bench.
      </p>
      <div className="flex gap-2">
        <button className="btn btn-primary btn-sm" onClick={onKeep}>
          Import and keep them as my word
        </button>
        <button className="btn btn-sm" onClick={onClose}>
          Do not import
        </button>
      </div>
    </Dialog>
  );
}
