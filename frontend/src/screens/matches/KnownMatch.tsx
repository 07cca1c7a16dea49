/** A match that is here already: it is not counted twice unasked. */
import { Dialog } from "../../parts/Dialog";

export type Same = "ask" | "replace" | "copy";

interface Props {
  message: string;
  onChoose: (same: Same) => void;
  onClose: () => void;
}

export function KnownMatch({ message, onChoose, onClose }: Props) {
  return (
    <Dialog title="This match is here already" onClose={onClose}>
      <p className="mb-2 first-letter:uppercase">{message}.</p>
      <p className="mb-3 opacity-80">
        Replaced, the one that is here can be had back for 30 days. A copy is a match of its own: its shots
        count once more in every figure.
      </p>
      <div className="flex flex-wrap gap-2">
        <button
          className="btn btn-primary btn-sm"
          onClick={() => {
            onChoose("replace");
          }}
        >
          Replace it
        </button>
        <button
          className="btn btn-sm"
          onClick={() => {
            onChoose("copy");
          }}
        >
          Take it in as a copy
        </button>
        <button className="btn btn-ghost btn-sm" onClick={onClose}>
          Leave it
        </button>
      </div>
    </Dialog>
  );
}
