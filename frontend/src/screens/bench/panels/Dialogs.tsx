/** The bench's dialogs: a ball by diamonds, and what to do when somebody else wrote first. */
import { useQueryClient } from "@tanstack/react-query";

import { settle, type Clash } from "../../../api/outbox";
import type { Game, Place } from "../../../api/types";
import { Dialog } from "../../../parts/Dialog";
import { placeWords, pocketWords } from "../../../words";

/** Somebody else changed the same fields: both versions of these, and a choice. Everything else is merged. */
export function ClashDialog({ clash, game }: { clash: Clash; game: Game }) {
  const queries = useQueryClient();
  const decide = (keepMine: boolean) => {
    settle(keepMine);
    void queries.invalidateQueries({ queryKey: ["game", clash.game] });
  };
  return (
    <Dialog
      title="Somebody else changed this too"
      onClose={() => {
        decide(false);
      }}
      wide
    >
      <p className="mb-3">
        Your change “{clash.operation.label}” and theirs disagree about this. Nothing has been overwritten;
        what only one of you touched is kept either way.
      </p>
      <table className="w-full text-left" data-testid="clash">
        <thead className="caption">
          <tr>
            <th className="py-1">of</th>
            <th>theirs, as stored</th>
            <th>yours</th>
          </tr>
        </thead>
        <tbody>
          {clashesOf(clash).map((one) => (
            <tr key={one.field} className="border-t border-base-300 align-top">
              <th scope="row" className="py-1 pr-3 font-normal opacity-75">
                {placeWords(one.field)}
              </th>
              <td className="pr-3 break-words">{inWords(one.theirs, game)}</td>
              <td className="break-words">{inWords(one.mine, game)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-4 flex gap-2">
        <button
          className="btn btn-sm"
          onClick={() => {
            decide(false);
          }}
        >
          Keep theirs
        </button>
        <button
          className="btn btn-primary btn-sm"
          onClick={() => {
            decide(true);
          }}
        >
          Write mine over it
        </button>
      </div>
    </Dialog>
  );
}

interface Stored {
  document?: Record<string, unknown>;
  fields?: string[];
}

function clashesOf(clash: Clash) {
  return Object.entries(clash.theirs).flatMap(([key, stored]) => {
    const theirs = stored as Stored | null;
    const sent = clash.operation.changes.find((change) => `${change.kind}:${change.id}` === key);
    if (!theirs || !sent?.document)
      return [
        {
          field: "the shot",
          theirs: theirs ? "changed" : "removed",
          mine: sent?.document ? "changed" : "removed",
        },
      ];
    const mine = sent.document as Record<string, unknown>;
    return (theirs.fields ?? []).map((field) => ({
      field,
      theirs: theirs.document?.[field],
      mine: mine[field],
    }));
  });
}

/** A value as somebody would say it. */
function inWords(value: unknown, game: Game): string {
  if (value === undefined || value === null || value === "") return "not said";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "string") return value.replaceAll("-", " ");
  if (typeof value === "number") return String(value);
  if (Array.isArray(value)) return value.map((one) => inWords(one, game)).join(", ") || "nothing";
  const told = value as Record<string, unknown>;
  if ("ball" in told)
    return `${inWords(told["ball"], game)} ${pocketWords(told["pocket"] as string, game.header.discipline)}`.trim();
  if ("balls" in told) return placesIn(told["balls"] as Record<string, [number, number]>, game);
  return Object.entries(told)
    .map(([name, one]) => `${name.replaceAll("_", " ")} ${inWords(one, game)}`)
    .join("; ");
}

/** Balls by diamonds: so that two layouts can be told apart by reading. */
function placesIn(balls: Record<string, [number, number]>, game: Game): string {
  const { length, width } = game.table;
  return Object.entries(balls)
    .map(([ball, [x, y]]) => `${ball} at ${((8 * x) / length).toFixed(1)} | ${((4 * y) / width).toFixed(1)}`)
    .join(", ");
}

/** A ball by two figures: eighths of the length, quarters of the width. */
export function DiamondDialog({
  game,
  ball,
  onPlace,
  onClose,
}: {
  game: Game;
  ball: string;
  onPlace: (place: Place) => void;
  onClose: () => void;
}) {
  return (
    <Dialog title={`${ball === "cue" ? "Cue ball" : `${ball} ball`} by diamonds`} onClose={onClose}>
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const form = new FormData(event.currentTarget);
          onPlace([
            (Number(form.get("along")) * game.table.length) / 8,
            (Number(form.get("across")) * game.table.width) / 4,
          ]);
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="caption">from the head, 0 – 8</span>
          <input
            name="along"
            required
            inputMode="decimal"
            type="number"
            step="0.05"
            min="0"
            max="8"
            className="input input-sm w-28"
          />
        </label>
        <label className="flex flex-col gap-1">
          <span className="caption">from the right, 0 – 4</span>
          <input
            name="across"
            required
            inputMode="decimal"
            type="number"
            step="0.05"
            min="0"
            max="4"
            className="input input-sm w-28"
          />
        </label>
        <button className="btn btn-sm btn-primary">Place</button>
      </form>
    </Dialog>
  );
}
