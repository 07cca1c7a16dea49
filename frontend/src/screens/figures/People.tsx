/** Who is who, and what is only on paper: names of one player joined and parted, a sheet of counts taken in. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api, raw } from "../../api/client";
import { usePlayers } from "../../api/queries";
import type { PlayerList } from "../../api/types";
import { Problem } from "../../parts/Problem";

export function People() {
  const players = usePlayers().data?.players ?? [];
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [other, setOther] = useState("");
  const join = useMutation({
    mutationFn: ({ player, to }: { player: number; to: number | null }) =>
      answered<PlayerList>(
        api.PUT("/api/players/{player}", { params: { path: { player } }, body: { joined_to: to } }),
      ),
    onSuccess: (known) => {
      client.setQueryData(["players"], known);
      void client.invalidateQueries({ queryKey: ["question"] });
      [setName, setOther].forEach((clear) => {
        clear("");
      });
    },
  });
  const paper = useMutation({
    mutationFn: async (file: File) =>
      (await (await raw("/api/paper", { method: "POST", body: file })).json()) as { counts: number },
    onSuccess: () => client.invalidateQueries(),
  });
  const named = new Map(players.map((one) => [one.id, one.name]));
  return (
    <section aria-label="Names and paper" className="space-y-3 text-[13px]">
      <h2 className="text-lg">Names and paper</h2>
      <form
        className="flex flex-wrap items-baseline gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          join.mutate({ player: Number(name), to: Number(other) });
        }}
      >
        <Name label="Name" value={name} onChange={setName} {...{ players }} />
        <span>is the same player as</span>
        <Name label="Same player" value={other} onChange={setOther} {...{ players }} />
        <button className="chip" disabled={!name || !other || name === other}>
          join the two
        </button>
      </form>
      <ul>
        {players
          .filter((one) => one.joined_to !== null)
          .map((one) => (
            <li key={one.id}>
              {one.name} is {named.get(one.joined_to ?? 0)}{" "}
              <button
                className="chip"
                onClick={() => {
                  join.mutate({ player: one.id, to: null });
                }}
              >
                part them
              </button>
            </li>
          ))}
      </ul>
      <label className="flex flex-wrap items-baseline gap-2">
        A sheet of counts (CSV: date, player, game, pots made, pots missed …)
        <input
          type="file"
          accept=".csv,text/csv"
          className="file-input file-input-sm"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) paper.mutate(file);
            event.target.value = "";
          }}
        />
      </label>
      {paper.data && (
        <p role="status">{paper.data.counts} counts taken in; questions without layouts have them.</p>
      )}
      <Problem of={join.error ?? paper.error} />
    </section>
  );
}

interface NameProps {
  label: string;
  value: string;
  players: PlayerList["players"];
  onChange: (value: string) => void;
}

function Name({ label, value, players, onChange }: NameProps) {
  return (
    <select
      aria-label={label}
      className="select select-sm w-auto"
      value={value}
      onChange={(event) => {
        onChange(event.target.value);
      }}
    >
      <option value="">choose</option>
      {players
        .filter((one) => one.joined_to === null)
        .map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
    </select>
  );
}
