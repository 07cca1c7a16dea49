/** The bench's dialogs: its keys, a ball by diamonds, and what to do when somebody else wrote first. */
import { useQueryClient } from "@tanstack/react-query";

import { settle, type Clash } from "../../api/outbox";
import type { Game, Place } from "../../api/types";
import type { Discipline } from "../../games/discipline";
import { Dialog } from "../../parts/Dialog";
import { keysFor } from "./keys";

export function KeysDialog({ discipline, onClose }: { discipline: Discipline; onClose: () => void }) {
  const keys = keysFor(discipline);
  const groups = [...new Set(keys.map((key) => key.group))];
  return (
    <Dialog title="Keys" onClose={onClose} wide>
      <div className="grid gap-x-8 gap-y-4 sm:grid-cols-2">
        {groups.map((group) => (
          <section key={group}>
            <h3 className="caption mb-1">{group}</h3>
            <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
              {keys
                .filter((key) => key.group === group)
                .map((key) => (
                  <div key={key.key} className="contents">
                    <dt>
                      <kbd className="key !text-[12px] !opacity-100">{key.shown ?? key.key}</kbd>
                    </dt>
                    <dd>{key.does}</dd>
                  </div>
                ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}

/** Somebody else changed the same fact: both versions, and a choice. */
export function ClashDialog({ clash }: { clash: Clash }) {
  const keys = Object.keys(clash.theirs);
  const mine = (key: string) =>
    clash.operation.changes.find((change) => `${change.kind}:${change.id}` === key)?.document ?? null;
  const theirs = (key: string) => (clash.theirs[key] as { document?: unknown } | null)?.document ?? null;
  const queries = useQueryClient();
  const decide = (keepMine: boolean) => {
    settle(keepMine, Number.MAX_SAFE_INTEGER);
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
        Your change “{clash.operation.label}” and theirs touch the same shot. Nothing has been overwritten.
      </p>
      <div className="grid grid-cols-2 gap-4" data-testid="clash">
        {keys.map((key) => (
          <div key={key} className="contents">
            <Version title="Theirs, as stored" of={theirs(key)} against={mine(key)} />
            <Version title="Yours" of={mine(key)} against={theirs(key)} />
          </div>
        ))}
      </div>
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

/** One version, with only what differs from the other. */
function Version({ title, of, against }: { title: string; of: unknown; against: unknown }) {
  const left = (of ?? {}) as Record<string, unknown>;
  const right = (against ?? {}) as Record<string, unknown>;
  const different = Object.keys({ ...left, ...right }).filter(
    (key) => JSON.stringify(left[key]) !== JSON.stringify(right[key]),
  );
  return (
    <section className="min-w-0">
      <h3 className="caption">{title}</h3>
      {of === null ? (
        <p>removed</p>
      ) : (
        <dl className="sheet max-h-60 overflow-auto p-2">
          {different.map((key) => (
            <div key={key}>
              <dt className="opacity-70">{key.replaceAll("_", " ")}</dt>
              <dd className="break-words">{JSON.stringify(left[key]) ?? "not said"}</dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
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
