/** The words of the trade as the screens use them. */
import type { Pocket, Rate } from "./api/types";
import { disciplineOf } from "./games/discipline";

export const POCKETS: { name: Pocket; key: string }[] = [
  { name: "head-left", key: "q" },
  { name: "side-left", key: "w" },
  { name: "foot-left", key: "e" },
  { name: "head-right", key: "a" },
  { name: "side-right", key: "s" },
  { name: "foot-right", key: "d" },
];

/** A pocket by the name that the game has for it. */
export const pocketWords = (pocket: string | null | undefined, discipline = "nine-ball") =>
  pocket ? disciplineOf(discipline).pockets[pocket as Pocket] : "";

export const RESULTS = [
  { id: "made", words: "made", key: "m", sign: "●" },
  { id: "missed-thick", words: "missed thick", key: "t", sign: "◐" },
  { id: "missed-thin", words: "missed thin", key: "n", sign: "◑" },
  { id: "missed-jaw", words: "in the jaws", key: "j", sign: "◒" },
  { id: "fluke", words: "fluke", key: "l", sign: "✳" },
  { id: "played", words: "no pot meant", key: "g", sign: "–" },
] as const;

export const SIGNS: Record<string, string> = {
  ...Object.fromEntries(RESULTS.map((result) => [result.id, result.sign])),
  missed: "○",
  foul: "✕",
  scratch: "⊗",
};

export const KINDS = [
  "pot",
  "bank",
  "kick",
  "combination",
  "cannon",
  "glance",
  "jump",
  "nudge",
  "break-out",
  "thin",
  "other",
] as const;

export const INTENTS = [
  "attack",
  "safety",
  "two-way",
  "containing",
  "escape",
  "deny",
  "tie-up",
  "position",
  "experiment",
] as const;

export const SOURCES = ["stated", "inferred", "unknown"] as const;

export const STROKES = [
  ["soft", "medium", "firm"],
  ["draw", "stun", "follow"],
  ["left", "no side", "right"],
];

export const CAUSES = [
  "speed",
  "spin",
  "line",
  "wrong part of the pocket",
  "off centre",
  "steered",
  "route never decided",
  "rushed",
  "routine skipped",
  "got up from the shot",
  "stretched",
  "attention on position",
  "careless",
  "forced",
  "table not re-read",
  "missed pattern",
  "wrong option",
  "pressure",
  "tired",
  "table",
];

export const percent = (value: number) => `${Math.round(value * 100)} %`;

/** "71 % (44 to 89), n 12": a rate never stands without its interval and its sample. */
export function rateWords(rate: Rate): string {
  if (rate.p === null) return "no tries";
  return `${percent(rate.p)} (${Math.round(rate.low * 100)} to ${Math.round(rate.high * 100)}), n ${rate.n}`;
}

export function time(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  return `${minutes}:${(seconds - 60 * minutes).toFixed(2).padStart(5, "0")}`;
}
