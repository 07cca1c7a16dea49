/** A new match: who plays what, and how far it already is when the recording begins. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { answered, api } from "../../api/client";
import type { Game, Header } from "../../api/types";
import { Dialog } from "../../parts/Dialog";
import { Problem } from "../../parts/Problem";

const TABLES = [
  ["pool-9ft", "9 ft"],
  ["pool-8ft", "8 ft"],
  ["pool-7ft", "7 ft"],
] as const;

const SESSIONS = ["match", "solo", "both-sides", "partners", "lesson"] as const;

export function NewMatch({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [problem, setProblem] = useState<unknown>(null);
  const [late, setLate] = useState(false);

  const begin = async (form: FormData) => {
    const text = (name: string) => String(form.get(name) ?? "").trim();
    const number = (name: string) => Number(text(name)) || 0;
    const document: Header = {
      format: "aretane-match",
      version: 1,
      title: text("title") || `${text("A")} – ${text("B")}`,
      discipline: "nine-ball",
      rules: { breaks: text("breaks") },
      table: text("table") as "pool-9ft",
      race_to: number("race_to") || null,
      session: text("session") as (typeof SESSIONS)[number],
      players: { A: { name: text("A") || "Player A" }, B: { name: text("B") || "Player B" } },
    };
    if (late) document.start = startState(text, number);
    else document.start = { breaker: text("breaker") as "A" };
    const id = crypto.randomUUID();
    try {
      await answered<Game>(api.POST("/api/games", { body: { id, document } }));
      await queries.invalidateQueries({ queryKey: ["games"] });
      await navigate(`/match/${id}`);
    } catch (failure) {
      setProblem(failure);
    }
  };

  return (
    <Dialog title="New match" onClose={onClose} wide>
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void begin(new FormData(event.currentTarget));
        }}
      >
        <Field label="Title" className="col-span-2">
          <input name="title" maxLength={200} className="input input-sm w-full" />
        </Field>
        <Field label="Player A">
          <input name="A" required maxLength={100} className="input input-sm w-full" />
        </Field>
        <Field label="Player B">
          <input name="B" maxLength={100} className="input input-sm w-full" />
        </Field>
        <Field label="Game">
          <select className="select select-sm w-full" disabled>
            <option>Nine-ball</option>
          </select>
        </Field>
        <Field label="Table">
          <select name="table" className="select select-sm w-full">
            {TABLES.map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Race to">
          <input
            name="race_to"
            type="number"
            min={1}
            max={1000}
            defaultValue={5}
            className="input input-sm w-full"
          />
        </Field>
        <Field label="Session">
          <select name="session" className="select select-sm w-full">
            {SESSIONS.map((id) => (
              <option key={id}>{id}</option>
            ))}
          </select>
        </Field>
        <Field label="Who breaks after the first rack">
          <select name="breaks" className="select select-sm w-full">
            <option value="winner">winner</option>
            <option value="loser">loser</option>
            <option value="alternate">alternate</option>
          </select>
        </Field>
        <Player name="breaker" label="First break" />
        <label className="col-span-2 flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={late}
            onChange={(event) => {
              setLate(event.target.checked);
            }}
          />
          The recording begins later, in mid-match or mid-rack
        </label>
        {late && (
          <fieldset className="col-span-2 grid grid-cols-4 gap-3 border border-base-300 p-3">
            <legend className="caption px-1">When the recording begins</legend>
            <Field label="Racks A">
              <input
                name="score_a"
                type="number"
                min={0}
                defaultValue={0}
                className="input input-sm w-full"
              />
            </Field>
            <Field label="Racks B">
              <input
                name="score_b"
                type="number"
                min={0}
                defaultValue={0}
                className="input input-sm w-full"
              />
            </Field>
            <label className="col-span-2 flex items-center gap-2 self-end pb-1">
              <input type="checkbox" name="mid_rack" className="checkbox checkbox-sm" /> a rack is under way
            </label>
            <Player name="player" label="At the table" />
            <Field label="Fouls A">
              <input
                name="fouls_a"
                type="number"
                min={0}
                max={2}
                defaultValue={0}
                className="input input-sm w-full"
              />
            </Field>
            <Field label="Fouls B">
              <input
                name="fouls_b"
                type="number"
                min={0}
                max={2}
                defaultValue={0}
                className="input input-sm w-full"
              />
            </Field>
            <div className="flex flex-col gap-1 self-end pb-1">
              <label className="flex items-center gap-2">
                <input type="checkbox" name="in_hand" className="checkbox checkbox-xs" /> ball in hand
              </label>
              <label className="flex items-center gap-2">
                <input type="checkbox" name="push_out" className="checkbox checkbox-xs" /> push-out allowed
              </label>
            </div>
          </fieldset>
        )}
        <div className="col-span-2 space-y-2">
          <Problem of={problem} />
          <button className="btn btn-primary btn-sm">Begin</button>
        </div>
      </form>
    </Dialog>
  );
}

function startState(
  text: (name: string) => string,
  number: (name: string) => number,
): NonNullable<Header["start"]> {
  const start: NonNullable<Header["start"]> = {
    score: { A: number("score_a"), B: number("score_b") },
    breaker: text("breaker") as "A",
  };
  if (!text("mid_rack")) return start;
  return {
    ...start,
    player: text("player") as "A",
    fouls: { A: number("fouls_a"), B: number("fouls_b") },
    layout: {
      state: {
        ball_in_hand: text("in_hand") ? "anywhere" : false,
        push_out_allowed: Boolean(text("push_out")),
      },
    },
  };
}

function Field({
  label,
  children,
  className = "",
}: {
  label: string;
  children: React.ReactNode;
  className?: string;
}) {
  return (
    <label className={`flex flex-col gap-1 ${className}`}>
      <span className="caption">{label}</span>
      {children}
    </label>
  );
}

function Player({ name, label }: { name: string; label: string }) {
  return (
    <Field label={label}>
      <select name={name} className="select select-sm w-full">
        <option value="A">player A</option>
        <option value="B">player B</option>
      </select>
    </Field>
  );
}
