/** The record of a break, a break-off, or the shot that opens the pack: what a coach notes of it, by game. */
import type { ShotDocument } from "../../api/types";
import type { Name } from "../../games/discipline";
import { Chip, Line } from "../../parts/Chips";

type Record = NonNullable<ShotDocument["break_record"]>;
type Key = keyof Record;

const POOL: [string, Key, readonly string[]][] = [
  ["From", "from", ["left rail", "left", "centre", "right", "right rail"]],
  ["Power", "power", ["soft", "medium", "firm", "full"]],
  ["First", "fullness", ["full", "three-quarter", "half", "thin"]],
  ["Made", "made", ["wing ball", "head ball in the side", "money ball", "other"]],
  ["White", "rests", ["centre", "head", "foot", "left rail", "right rail"]],
];

const NEXT: [string, Key, readonly string[]] = ["Next", "next_visible", ["yes", "partly", "no"]];

const SNOOKER: [string, Key, readonly string[]][] = [
  [
    "Break",
    "type",
    [
      "thin off the end red",
      "thin off the second red",
      "with check side",
      "into the pack",
      "off two cushions",
      "other",
    ],
  ],
  ["White", "rests", ["baulk cushion", "in baulk", "in the open"]],
  ["Leaves", "leaves", ["nothing", "a long pot", "a pot", "an easy pot"]],
];

const OPENING: [string, Key, readonly string[]][] = [
  ["White", "rests", ["head", "centre", "foot", "left rail", "right rail"]],
  ["Leaves", "leaves", ["nothing", "a long pot", "a pot", "an easy pot"]],
];

const BREAK_SHOT: [string, Key, readonly string[]][] = [
  ["Pack", "side", ["left", "right", "above", "below", "behind"]],
  ["Power", "power", ["soft", "medium", "firm"]],
  ["First", "fullness", ["full", "three-quarter", "half", "thin"]],
  ["Opened", "opened", ["wide", "well", "partly", "hardly"]],
  ["Next", "next_shot", ["yes", "no"]],
];

/** The lines that fit the game and this entry; none for a shot that opens nothing. */
export function linesOf(discipline: Name, document: ShotDocument): [string, Key, readonly string[]][] {
  if (document.kind === "break") {
    if (discipline === "snooker") return SNOOKER;
    if (discipline === "straight-pool") return OPENING;
    return discipline === "nine-ball" || discipline === "ten-ball" ? [...POOL, NEXT] : POOL;
  }
  const opens = document.kind === "break-out" || document.also?.includes("break-out");
  return opens ? BREAK_SHOT : [];
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
