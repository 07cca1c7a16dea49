/** A question in the words of the page: what can be asked, told apart by what, and how a value is written. */
import type { QuestionAnswer, QuestionGroup, Rate } from "../../api/types";
import type { Question } from "../../api/questions";
import { DISCIPLINES } from "../../games/discipline";
import { percent } from "../../words";

export type Measure = QuestionAnswer["measure"];
export type Value = QuestionGroup["values"][number];

export const MEASURES: [string, string][] = [
  ["pots", "pots made"],
  ["chances", "open chances brought home"],
  ["fulfilled", "racks won after an open chance"],
  ["safeties", "safeties that held"],
  ["hidden", "safeties that hid every ball on"],
  ["zone", "stops in the zone"],
  ["off", "distance from the zone"],
  ["along", "long or short of the zone"],
  ["across", "left or right of the zone"],
  ["decision", "what decisions cost"],
  ["potting", "what potting brought"],
  ["position", "what position brought"],
  ["luck", "what luck brought"],
  ["fouls", "strokes that were fouls"],
  ["time", "time for a shot"],
];

export const BY: [string, string][] = [
  ["nothing", "all together"],
  ["cut", "cut angle"],
  ["way", "distance"],
  ["tip", "follow, stun, draw"],
  ["pace", "pace"],
  ["rails", "rails of the cue ball"],
  ["pocket", "pocket"],
  ["kind", "kind of shot"],
  ["waited", "after a wait"],
  ["standing", "score in racks"],
  ["player", "player"],
  ["opponent", "opponent"],
  ["day", "day, as a curve"],
  ["month", "month"],
  ["discipline", "game"],
  ["played_at", "table"],
  ["game_id", "match"],
  ["intent_source", "whose intention"],
];

const numbered = (words: string[]): [string, string][] => words.map((word, at) => [String(at), word]);
const same = (words: string[]): [string, string][] => words.map((word) => [word, word.replace("-", " ")]);

/** What further the shots may have in common. */
export const CONDITIONS: { name: string; words: string; values: [string, string][] }[] = [
  {
    name: "cut",
    words: "cut",
    values: numbered([0, 15, 30, 45, 60, 75].map((from) => `${from} to ${from + 15}°`)),
  },
  {
    name: "way",
    words: "distance",
    values: numbered([0, 1, 2, 3, 4, 5, 6, 7].map((at) => `from ${at / 2} m`)),
  },
  { name: "tip", words: "tip", values: same(["follow", "stun", "draw"]) },
  { name: "pace", words: "pace", values: same(["soft", "medium", "firm"]) },
  { name: "kind", words: "kind", values: same(["pot", "bank", "kick", "combination", "thin", "break-out"]) },
  {
    name: "waited",
    words: "visit",
    values: [
      ["1", "first stroke of a visit"],
      ["0", "within a visit"],
    ],
  },
  { name: "standing", words: "score", values: same(["ahead", "level", "behind"]) },
  {
    name: "target_source",
    words: "zone",
    values: [
      ["stated", "stated by the player"],
      ["inferred", "as it looks"],
    ],
  },
];

export const SESSIONS = ["match", "solo", "both-sides", "partners", "lesson"];
export const GAMES: [string, string][] = DISCIPLINES.map((one) => [one.name, one.title]);

/** The question of an address, with what is asked when nothing is said. */
export function questionOf(address: URLSearchParams): Question {
  const told = Object.fromEntries([...address].filter(([name, value]) => value && name !== "at"));
  const question: Question = { measure: "pots", by: "cut", session: "match", ...told };
  if (!question.player || question.versus === question.player) delete question.versus; // nobody to be compared
  return question;
}

export const isRate = (value: Value): value is Rate => "p" in value;

export const middleOf = (value: Value) => (isRate(value) ? value.p : value.mean);

/** The scale that the picture has: per cent, centimetres, seconds, points of win chance. */
export const scaleOf = (measure: Measure) =>
  measure.kind === "rate" || measure.unit === "points" || measure.unit === "m" ? 100 : 1;

export function axisOf(measure: Measure): string {
  if (measure.kind === "rate") return `per cent ${measure.what}`;
  if (measure.unit === "points") return "points of win chance a stroke";
  if (measure.unit !== "m") return "seconds";
  const ends = { along: "short – long", across: "right – left" }[measure.name];
  return ends ? `centimetres, ${ends}` : "centimetres";
}

/** "62 % (55 to 69), n 180". */
export function valueWords(measure: Measure, value: Value): string {
  const middle = middleOf(value);
  if (middle === null) return "–";
  const scale = scaleOf(measure);
  const digits = measure.kind === "rate" ? 0 : 1;
  const number = (one: number) => (one * scale).toFixed(digits).replace("-", "−");
  const unit = measure.kind === "rate" ? "" : measure.unit === "m" ? " cm" : measure.unit === "s" ? " s" : "";
  const interval = value.low === null ? "" : ` (${number(value.low)} to ${number(value.high ?? 0)})`;
  const first = measure.kind === "rate" ? percent(middle) : `${number(middle)}${unit}`;
  return `${first}${interval}`;
}
