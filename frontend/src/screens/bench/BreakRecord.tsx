/** The record of a break, a break-off, or the shot that opens the pack: what a coach notes of it, by game. */
import type { ShotDocument } from "../../api/types";
import { disciplineOf, type Name } from "../../games/discipline";
import { trade } from "../../trade";
import { Chip, Line } from "../../parts/Chips";

type Record = NonNullable<ShotDocument["break_record"]>;
type Key = keyof Record;

/** The lines that fit the game and this entry; none for a shot that opens nothing. */
export function linesOf(
  discipline: Name,
  document: ShotDocument,
): readonly (readonly [string, Key, readonly string[]])[] {
  const opens = document.kind === "break-out" || document.also?.includes("break-out");
  const lines = document.kind === "break" ? disciplineOf(discipline).breaks : opens ? trade.break_shot : [];
  return lines;
}

export function BreakRecord({
  discipline,
  document,
  onChange,
}: {
  discipline: Name;
  document: ShotDocument;
  onChange: (record: Record) => void;
}) {
  const record: Record = document.break_record ?? {};
  return (
    <>
      {linesOf(discipline, document).map(([name, key, words]) => (
        <Line key={key} name={name}>
          {words.map((word) => (
            <Chip
              key={word}
              on={isSaid(record[key], word)}
              name={`${name}: ${word}`}
              onClick={() => {
                onChange({ ...record, [key]: withWord(record[key], word, key === "made") });
              }}
            >
              {word}
            </Chip>
          ))}
        </Line>
      ))}
    </>
  );
}

const isSaid = (value: unknown, word: string) =>
  Array.isArray(value) ? value.includes(word) : value === word;

function withWord(value: unknown, word: string, many: boolean): unknown {
  if (!many) return value === word ? null : word;
  const said = Array.isArray(value) ? (value as string[]) : [];
  return said.includes(word) ? said.filter((one) => one !== word) : [...said, word];
}
