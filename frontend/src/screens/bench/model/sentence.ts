/** What the entry says happened, as one sentence in words that can each be put right. */
import type { Game, ShotDocument } from "../../../api/types";
import { choiceWords, disciplineOf } from "../../../games/discipline";
import { ballWords, pocketWords, RESULTS } from "../../../words";
import { resultOf, type Entry, type Target } from "./entry";
import type { Asked } from "./state";

export interface Word {
  text: string;
  /** What a press on it asks; without it it only reads. */
  asks?: Asked;
  /** Nobody has confirmed it. */
  inferred?: boolean;
  /** The evidence does not tell. */
  open?: boolean;
}

/** "Tomas: 5 into foot right, missed thick; nothing left". */
export function sentenceOf(game: Game, entry: Entry, target: Target | null): Word[] {
  const { document } = entry;
  const who: Word = { text: `${nameOf(game, entry)}:`, asks: "player", ...marks(entry, "player") };
  if (document.hole) return [{ text: "Not seen: a stretch of unknown length." }];
  const declared = document.declared;
  if (declared && declared !== "safety" && declared !== "push-out" && !declared.startsWith("free-ball:"))
    return [who, { text: choiceWords(declared, game.header.discipline, [], otherName(game, document)) }];
  return [who, ...deed(game, entry, target), ...outcome(game, entry)];
}

function deed(game: Game, entry: Entry, target: Target | null): Word[] {
  const { document } = entry;
  if (document.kind === "break") return breaks(document);
  if (document.declared === "push-out") return [{ text: "push-out" }];
  const free = document.declared?.startsWith("free-ball:") ? "free ball, " : "";
  const nominated = free || document.kind === "pot" || !document.kind ? free : `${document.kind}, `;
  if (isSafe(document)) {
    const hit = document.first_contact;
    const off = hit ? ` off the ${ballWords(hit)}` : "";
    return [
      {
        text: `${nominated === "thin, " ? "" : nominated}${document.intent ?? "safety"}${off}`,
        asks: "result",
        ...marks(entry, "intent"),
      },
    ];
  }
  if (!target) return [{ text: "which ball?", asks: "called", open: true }];
  const pocket = target.pocket
    ? `into ${pocketWords(target.pocket, game.header.discipline)}`
    : "(which pocket?)";
  const faint = target.offered || marks(entry, "called").inferred;
  return [
    { text: `${nominated}${ballWords(target.ball)}`, asks: "called", inferred: faint },
    {
      text: pocket,
      asks: "called",
      inferred: faint,
      open: target.pocket === null || marks(entry, "called").open,
    },
  ];
}

const isSafe = ({ intent, result, declared, called }: ShotDocument) =>
  declared === "safety" ||
  (result === "played" && !called) ||
  (intent != null && !["attack", "two-way"].includes(intent) && !called);

function breaks(document: ShotDocument): Word[] {
  if (!document.potted) return [{ text: "breaks (what fell?)", open: true }];
  const fell = document.potted.map((one) => one.ball);
  const made = fell.length ? `makes the ${fell.join(", ")}` : "nothing falls";
  return [{ text: `breaks, ${made}`, inferred: document.inferred?.includes("potted") }];
}

function outcome(game: Game, entry: Entry): Word[] {
  const { document, shot } = entry;
  const words: Word[] = [];
  const said = resultOf(entry);
  const result = RESULTS.find((one) => one.id === said)?.words ?? (said === "missed" ? said : undefined);
  const safe = isSafe(document);
  if (document.kind !== "break" && !safe)
    words.push(
      result
        ? { text: `, ${result}`, asks: "result", ...marks(entry, "result") }
        : document.scratch || document.first_contact === null
          ? { text: "" }
          : { text: ", made or missed?", asks: "result", open: true },
    );
  const others = (document.potted ?? []).filter((one) => one.ball !== document.called?.ball);
  if (others.length && document.kind !== "break")
    words.push({
      text: `, the ${others.map((one) => one.ball).join(", ")} falls too`,
      ...marks(entry, "potted"),
    });
  if (document.first_contact === null)
    words.push({ text: ", hits nothing", asks: "first_contact", ...marks(entry, "first_contact") });
  else if (entry.open.includes("first_contact") && document.first_contact)
    words.push({ text: `, hits the ${document.first_contact} first`, asks: "first_contact", open: true });
  if (document.scratch)
    words.push({ text: `, ${disciplineOf(game.header.discipline).scratch}`, ...marks(entry, "scratch") });
  if (shot?.leaves) words.push({ text: `; ${shot.leaves === "nothing" ? "nothing" : shot.leaves} left` });
  return words;
}

const marks = (entry: Entry, field: string): Pick<Word, "inferred" | "open"> => ({
  inferred: entry.document.inferred?.includes(field) ?? false,
  open: entry.open.includes(field),
});

type People = Record<string, { name?: string; partner?: string } | undefined>;

function nameOf(game: Game, entry: Entry): string {
  const people = (game.header.players ?? {}) as People;
  const side = entry.document.player ?? "A";
  if (entry.shot?.person) return entry.shot.person;
  const by = entry.document.by;
  const own = people[side];
  return (by === "partner" ? own?.partner : by ? own?.name : game.next_person[side]) ?? own?.name ?? side;
}

const otherName = (game: Game, document: ShotDocument): string => {
  const people = (game.header.players ?? {}) as People;
  const side = document.player === "A" ? "B" : "A";
  return people[side]?.name ?? side;
};

/** The sentence as plain text. */
export const plain = (words: Word[]): string =>
  words
    .map((word) => word.text)
    .join(" ")
    .replaceAll(" ,", ",")
    .replaceAll(" ;", ";")
    .trim();
