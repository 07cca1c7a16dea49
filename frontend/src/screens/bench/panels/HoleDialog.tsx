/** A stretch that nobody saw, and how the game stands after it: only what is stated here holds. */
import { useState } from "react";

import type { Game, ShotDocument } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { Dialog } from "../../../parts/Dialog";
import { Stated, statedBy } from "../../matches/Start";
import type { Entry } from "../model/entry";

export function HoleDialog({
  game,
  entry,
  onDone,
  onClose,
}: {
  game: Game;
  entry: Entry;
  onDone: (hole: ShotDocument) => void;
  onClose: () => void;
}) {
  const discipline = disciplineOf(game.header.discipline);
  const [standing, setStanding] = useState(entry.standing);
  return (
    <Dialog title="A stretch that was not seen" onClose={onClose} wide>
      <form
        className="grid grid-cols-2 gap-3 sm:grid-cols-4"
        onSubmit={(event) => {
          event.preventDefault();
          const form = new FormData(event.currentTarget);
          const text = (name: string) => String(form.get(name) ?? "").trim();
          const winner = text("winner");
          onDone({
            note: text("note"),
            state: {
              ...statedBy(discipline, text, standing),
              racks: { A: Number(text("score_a")) || 0, B: Number(text("score_b")) || 0 },
              ...(winner ? { winner: winner as "A" } : {}),
            },
          });
        }}
      >
        <p className="col-span-full opacity-80">
          Nothing is ruled across it: what fell in it belongs to nobody. Say how the game stands after it.
        </p>
        <Stated discipline={discipline} game={game} standing={standing} onStanding={setStanding} />
        <label className="col-span-full flex flex-col gap-1">
          <span className="caption">Why it was not seen</span>
          <input
            name="note"
            maxLength={500}
            className="input input-sm w-full"
            placeholder="highlights only, a flat battery"
          />
        </label>
        <div className="col-span-full">
          <button className="btn btn-primary btn-sm">Log the gap</button>
        </div>
      </form>
    </Dialog>
  );
}
