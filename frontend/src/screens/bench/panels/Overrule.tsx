/** The coach's word over the referee's: what was called, who came next, from where, the points, the winner. */
import { useState } from "react";

import type { Game, ShotDocument } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { Dialog } from "../../../parts/Dialog";
import { SEATS, oneOf } from "../../matches/Fields";
import { trade } from "../../../trade";
import { named } from "./Board";

const AS_COMPUTED = "as computed";
const NO_FOUL = "no foul";
const CALLS = [AS_COMPUTED, NO_FOUL, ...trade.fouls];

const IN_HAND = ["anywhere", "behind-line", "in-d"] as const;
const HANDS: Record<string, string> = {
  "": AS_COMPUTED,
  none: "where it lies",
  anywhere: "in hand anywhere",
  "behind-line": "in hand behind the line",
  "in-d": "in the D",
};

type Call = NonNullable<ShotDocument["overrule"]>;

export function OverruleDialog({
  game,
  document,
  onDone,
  onClose,
}: {
  game: Game;
  document: ShotDocument;
  onDone: (patch: Partial<ShotDocument>) => void;
  onClose: () => void;
}) {
  const old: Call = document.overrule ?? document.called_at_table ?? {};
  const [atTable, setAtTable] = useState(Boolean(document.called_at_table));
  const { rack } = disciplineOf(game.header.discipline);
  const sides = { "": AS_COMPUTED, A: named(game, "A"), B: named(game, "B") };
  const save = (form: FormData) => {
    const call = callFrom((name) => String(form.get(name) ?? "").trim());
    onDone(atTable ? { called_at_table: call, overrule: null } : { overrule: call, called_at_table: null });
  };
  return (
    <Dialog title="Overrule" onClose={onClose}>
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          save(new FormData(event.currentTarget));
        }}
      >
        <Select
          name="foul"
          label="Call"
          value={old.foul === undefined ? AS_COMPUTED : (old.foul ?? NO_FOUL)}
          options={Object.fromEntries(CALLS.map((call) => [call, call.replaceAll("-", " ")]))}
        />
        <Select name="next" label="Next at the table" value={old.next ?? ""} options={sides} />
        <Select
          name="in_hand"
          label="Cue ball"
          value={old.in_hand === undefined ? "" : (old.in_hand ?? "none")}
          options={HANDS}
        />
        <Select name="winner" label={`Winner of the ${rack}`} value={old.winner ?? ""} options={sides} />
        {(["A", "B"] as const).map((player) => (
          <label key={player} className="flex flex-col gap-1">
            <span className="caption">Points of {named(game, player)} afterwards</span>
            <input
              name={`points_${player}`}
              type="number"
              className="input input-sm w-full"
              placeholder={AS_COMPUTED}
              defaultValue={old.points?.[player] ?? ""}
            />
          </label>
        ))}
        <label className="col-span-2 flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={atTable}
            onChange={(event) => {
              setAtTable(event.target.checked);
            }}
          />
          So called at the table (a foul that only the recording shows stays noted)
        </label>
        <label className="col-span-2 flex flex-col gap-1">
          <span className="caption">Why</span>
          <textarea
            name="note"
            className="textarea textarea-sm w-full"
            required
            maxLength={500}
            defaultValue={old.note ?? ""}
          />
        </label>
        <div className="col-span-2 flex gap-2">
          <button className="btn btn-primary btn-sm">Overrule</button>
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => {
              onDone({ overrule: null, called_at_table: null });
            }}
          >
            Back to the rules
          </button>
        </div>
      </form>
    </Dialog>
  );
}

/** Only what was said goes into the call; the rest stays as the referee computes it. */
function callFrom(text: (name: string) => string): Call {
  const call: Call = { note: text("note") };
  const foul = text("foul");
  if (foul !== AS_COMPUTED) call.foul = oneOf(trade.fouls, foul) ?? null;
  if (text("next")) call.next = oneOf(SEATS, text("next"));
  if (text("in_hand")) call.in_hand = oneOf(IN_HAND, text("in_hand")) ?? null;
  if (text("winner")) call.winner = oneOf(SEATS, text("winner"));
  const points = (["A", "B"] as const).filter((player) => text(`points_${player}`) !== "");
  if (points.length)
    call.points = Object.fromEntries(points.map((player) => [player, Number(text(`points_${player}`))]));
  return call;
}

function Select({
  name,
  label,
  value,
  options,
}: {
  name: string;
  label: string;
  value: string;
  options: Record<string, string>;
}) {
  return (
    <label className="flex flex-col gap-1">
      <span className="caption">{label}</span>
      <select name={name} className="select select-sm w-full" defaultValue={value}>
        {Object.entries(options).map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
