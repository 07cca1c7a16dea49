/** What is measured of a break: the lag before the rack, and how near the balls came that it was to make. */
import type { Game } from "../../../api/types";
import { Dialog } from "../../../parts/Dialog";
import { POCKETS, pocketWords } from "../../../words";
import type { Actions } from "../actions";
import type { Entry } from "../model/entry";
import { named } from "./Board";

const ROWS = [0, 1, 2];

interface Props {
  game: Game;
  entry: Entry;
  actions: Actions;
  onClose: () => void;
}

export function BreakDialog({ game, entry, actions, onClose }: Props) {
  const rack = entry.rack;
  const lag = rack?.document.lag ?? {};
  const targets = entry.document.break_record?.targets ?? [];
  const save = (form: FormData) => {
    const text = (name: string) => String(form.get(name) ?? "").trim();
    const metres = (name: string) => (text(name) === "" ? null : Number(text(name).replace(",", ".")) / 100);
    const aimed = ROWS.map((row) => ({
      ball: text(`ball_${String(row)}`),
      pocket: POCKETS.find(({ name }) => name === text(`pocket_${String(row)}`))?.name ?? null,
      off: metres(`off_${String(row)}`),
    })).filter((one) => one.ball !== "");
    const rail = (seat: "A" | "B") => (form.has(`rail_${seat}`) ? true : null); // not ticked: nobody said
    const measured = { A: metres("lag_A"), B: metres("lag_B"), rail: { A: rail("A"), B: rail("B") } };
    const said = [measured.A, measured.B, measured.rail.A, measured.rail.B].some((one) => one !== null);
    if (said || rack?.document.lag) actions.noteLag(measured);
    if (aimed.length || targets.length)
      actions.set(
        { break_record: { ...entry.document.break_record, targets: aimed } },
        "targets of the break",
      );
    onClose();
  };
  return (
    <Dialog title="Lag and break" onClose={onClose} wide>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          save(new FormData(event.currentTarget));
        }}
      >
        {rack && (
          <fieldset className="grid grid-cols-2 gap-3 sm:grid-cols-4">
            <legend className="caption mb-1">lag: stop from the head rail, cm</legend>
            {(["A", "B"] as const).map((seat) => (
              <div key={seat} className="contents">
                <Number_ name={`lag_${seat}`} label={named(game, seat)} value={lag[seat]} />
                <label className="flex items-center gap-2 self-end pb-1">
                  <input
                    type="checkbox"
                    name={`rail_${seat}`}
                    defaultChecked={lag.rail?.[seat] ?? false}
                    className="checkbox checkbox-xs"
                  />
                  touched the rail
                </label>
              </div>
            ))}
          </fieldset>
        )}
        {entry.document.kind === "break" && (
          <fieldset className="grid grid-cols-3 gap-3">
            <legend className="caption mb-1">balls that the break was to make, and how near each came</legend>
            {ROWS.map((row) => (
              <div key={row} className="contents">
                <label className="flex flex-col gap-1">
                  <span className="caption">ball</span>
                  <select
                    name={`ball_${String(row)}`}
                    className="select select-sm"
                    defaultValue={targets[row]?.ball ?? ""}
                  >
                    <option value="">none</option>
                    {game.balls
                      .filter((ball) => ball !== "cue")
                      .map((ball) => (
                        <option key={ball}>{ball}</option>
                      ))}
                  </select>
                </label>
                <label className="flex flex-col gap-1">
                  <span className="caption">pocket</span>
                  <select
                    name={`pocket_${String(row)}`}
                    className="select select-sm"
                    defaultValue={targets[row]?.pocket ?? ""}
                  >
                    <option value="">any</option>
                    {POCKETS.map(({ name }) => (
                      <option key={name} value={name}>
                        {pocketWords(name, game.header.discipline)}
                      </option>
                    ))}
                  </select>
                </label>
                <Number_
                  name={`off_${String(row)}`}
                  label="past the mouth by, cm"
                  value={targets[row]?.off}
                />
              </div>
            ))}
          </fieldset>
        )}
        <button className="btn btn-primary btn-sm">Keep it</button>
      </form>
    </Dialog>
  );
}

function Number_({ name, label, value }: { name: string; label: string; value: number | null | undefined }) {
  return (
    <label className="flex flex-col gap-1">
      <span className="caption">{label}</span>
      <input
        name={name}
        type="number"
        min={0}
        max={500}
        step="0.1"
        inputMode="decimal"
        className="input input-sm w-full"
        defaultValue={value == null ? "" : Math.round(value * 1000) / 10}
      />
    </label>
  );
}
