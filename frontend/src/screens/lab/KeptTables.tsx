/** Kept tables: this one is kept under a name; others are found by words, tag, or by likeness to it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";

import { answered, api } from "../../api/client";
import type { KeptTable, KeptTables as Found, Lab as Choices } from "../../api/types";
import { Chip } from "../../parts/Chips";
import { Problem } from "../../parts/Problem";
import type { LabState, Patch } from "./state";

const SHOWN = 8;

interface Props {
  lab: LabState;
  choices: Choices;
  change: (patch: Patch) => void;
}

export function KeptTables({ lab, choices, change }: Props) {
  const [words, setWords] = useState("");
  const [alike, setAlike] = useState(false);
  const like = useDeferredValue(alike ? placed(lab) : null);
  const sought = useDeferredValue(words);
  const { data, error } = useQuery({
    queryKey: ["kept tables", sought, like],
    queryFn: () =>
      answered<Found>(api.POST("/api/kept-tables/search", { body: { words: sought, like } as never })),
    placeholderData: (before) => before,
  });
  const client = useQueryClient();
  const drop = useMutation({
    mutationFn: (kept: string) =>
      answered(api.DELETE("/api/kept-tables/{kept}", { params: { path: { kept } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ["kept tables"] }),
  });
  const open = (one: KeptTable) => {
    const id = typeof one.table === "string" ? one.table : "";
    const drawn = choices.tables.find((each) => each.id === id)?.table ?? lab.drawn;
    const first = Object.keys(one.balls).find((ball) => ball !== "cue") ?? null;
    change({
      table: one.table,
      drawn,
      discipline: one.discipline,
      balls: one.balls,
      at: first,
      pocket: first ? "foot-left" : null,
      physics: {},
    });
  };
  const tables = data?.tables ?? [];
  return (
    <section
      aria-label="Kept tables"
      className="sheet flex flex-col gap-2 p-3 text-[13px]"
      data-testid="kept-tables"
    >
      <h2 className="text-[15px]">Kept tables</h2>
      <Keep lab={lab} />
      {(tables.length > 0 || words || alike) && (
        <div className="flex flex-wrap gap-1">
          <input
            aria-label="Find a table"
            placeholder="find by word or tag"
            maxLength={200}
            className="input input-sm min-w-0 flex-1"
            value={words}
            onChange={(event) => {
              setWords(event.target.value);
            }}
          />
          <Chip
            on={alike}
            onClick={() => {
              setAlike(!alike);
            }}
          >
            like this table
          </Chip>
        </div>
      )}
      <Problem of={error ?? drop.error} />
      <ul>
        {tables.slice(0, SHOWN).map((one) => (
          <li key={one.id} className="flex items-baseline gap-2 py-0.5">
            <button
              className="min-w-0 flex-1 cursor-pointer truncate text-left hover:underline"
              title={[one.name, ...one.tags, one.note].join(" · ")}
              onClick={() => {
                open(one);
              }}
            >
              {one.name} <span className="opacity-75">{one.tags.join(" ")}</span>
              {one.note && <span className="block truncate text-[12px] opacity-75">{one.note}</span>}
            </button>
            {one.unlike !== null && (
              <span className="text-[11px] whitespace-nowrap opacity-75">
                {(one.unlike * 100).toFixed(0)} cm a ball
              </span>
            )}
            <button
              className="chip"
              aria-label={`give up ${one.name}`}
              onClick={() => {
                drop.mutate(one.id);
              }}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {tables.length > SHOWN && <p className="caption">{tables.length - SHOWN} more; find them by a word</p>}
    </section>
  );
}

const placed = ({ table, discipline, balls }: LabState) => ({ table, discipline, balls });

function Keep({ lab }: { lab: LabState }) {
  const [name, setName] = useState("");
  const [tags, setTags] = useState("");
  const [note, setNote] = useState("");
  const client = useQueryClient();
  const keep = useMutation({
    mutationFn: () =>
      answered<Found>(
        api.POST("/api/kept-tables", {
          body: {
            id: crypto.randomUUID(),
            name,
            tags: tags.split(/[ ,]+/).filter(Boolean).slice(0, 7),
            note,
            ...placed(lab),
          } as never,
        }),
      ),
    onSuccess: () => {
      setName("");
      setTags("");
      setNote("");
      return client.invalidateQueries({ queryKey: ["kept tables"] });
    },
  });
  return (
    <form
      className="flex flex-wrap gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <input
        aria-label="Name of the table"
        placeholder="keep this table as …"
        maxLength={160}
        className="input input-sm min-w-0 flex-1"
        value={name}
        onChange={(event) => {
          setName(event.target.value);
        }}
      />
      {name.trim() !== "" && (
        <>
          <input
            aria-label="Tags"
            placeholder="tags"
            maxLength={200}
            className="input input-sm w-24"
            value={tags}
            onChange={(event) => {
              setTags(event.target.value);
            }}
          />
          <textarea
            aria-label="Note"
            placeholder="a note"
            rows={2}
            maxLength={2000}
            className="textarea textarea-sm w-full"
            value={note}
            onChange={(event) => {
              setNote(event.target.value);
            }}
          />
          <button className="chip" disabled={keep.isPending}>
            keep
          </button>
        </>
      )}
      <Problem of={keep.error} />
    </form>
  );
}
