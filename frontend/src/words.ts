/** The words of the trade as the screens use them. */
import type { Pocket, Rate } from "./api/types";
import { disciplineOf } from "./games/discipline";
import { trade } from "./trade";

export type ResultId = keyof typeof trade.results;

export const POCKETS: { name: Pocket; key: string }[] = [
  { name: "head-left", key: "q" },
  { name: "side-left", key: "w" },
  { name: "foot-left", key: "e" },
  { name: "head-right", key: "a" },
  { name: "side-right", key: "s" },
  { name: "foot-right", key: "d" },
];

/** A pocket by the name that the game has for it. */
export const pocketWords = (pocket: string | null | undefined, discipline = "") =>
  pocket ? disciplineOf(discipline).pockets[pocket as Pocket] : "";

/** "5", "cue ball", "red": a ball as it is said in a sentence. */
export const ballWords = (ball: string) => (ball === "cue" ? "cue ball" : ball.replace(/-\d+$/, ""));

const KEYED: { id: ResultId; key: string; sign: string }[] = [
  { id: "made", key: "m", sign: "●" },
  { id: "missed-thick", key: "t", sign: "◐" },
  { id: "missed-thin", key: "n", sign: "◑" },
  { id: "missed-jaw", key: "j", sign: "◒" },
  { id: "fluke", key: "l", sign: "✳" },
  { id: "played", key: "g", sign: "–" },
];

export const RESULTS = KEYED.map((one) => ({ ...one, words: trade.results[one.id] }));

export const SIGNS: Record<string, string> = {
  ...Object.fromEntries(RESULTS.map((result) => [result.id, result.sign])),
  missed: "○",
  foul: "✕",
  scratch: "⊗",
};

export const {
  kinds: KINDS,
  intents: INTENTS,
  sources: SOURCES,
  intent_means: INTENT_MEANS,
  strokes: STROKES,
  causes: CAUSES,
} = trade;

export const percent = (value: number) => `${Math.round(value * 100)} %`;

/** "71 % (44 to 89), n 12": a rate never stands without its interval and its sample. */
export function rateWords(rate: Rate): string {
  if (rate.p === null) return "no tries";
  return `${percent(rate.p)} (${Math.round(rate.low * 100)} to ${Math.round(rate.high * 100)}), n ${rate.n}`;
}

/** The grades of a place, as they are said. */
export const GRADES: Record<string, string> = {
  ideal: "best place",
  acceptable: "good place",
  recoverable: "one can go on from here",
  forbidden: "not a place to be",
};

const PLACES: [RegExp, string][] = [
  [/^(file|query|json|document)$/, ""],
  [/racks[.[](\d+)\]?/, "rack #"],
  [/shots[.[](\d+)\]?/, "shot #"],
  [/recordings[.[](\d+)\]?/, "recording #"],
  [/views[.[](\d+)\]?/, "view #"],
  [/zones[.[](\d+)\]?/, "zone #"],
  [/drawings[.[](\d+)\]?/, "drawing #"],
  [/potted[.[](\d+)\]?/, "ball # that fell"],
  [/layout_before/, "places before"],
  [/layout_after/, "places after"],
  [/past_line/, "balls past the line"],
  [/rails_after_contact/, "balls to a rail"],
  [/race_to/, "the race"],
];

/** "rack 3, shot 4, ball 1 that fell": where something is, for somebody who does not read paths. Counted from 1. */
export function placeWords(path: string): string {
  const parts = path.split(/\.(?!\d)|(?<=\])\./);
  return parts
    .map((part) => {
      const known = PLACES.find(([pattern]) => pattern.test(part));
      const number = /(\d+)\]?$/.exec(part)?.[1];
      if (known) return known[1].replace("#", String(Number(number ?? 0) + 1));
      return part.replaceAll("_", " ").replaceAll(/\[(\d+)\]/g, " $1");
    })
    .filter(Boolean)
    .join(", ")
    .replace(/players, ([AB]), (name|partner)/, "player $1's $2")
    .replace(/\bballs\.([\w-]+)/, "the $1");
}

export function time(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  return `${minutes}:${(seconds - 60 * minutes).toFixed(2).padStart(5, "0")}`;
}
