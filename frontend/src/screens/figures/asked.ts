/** A question in the words of the page: what can be asked, told apart by what, and how a value is written. */
import type { QuestionAnswer, QuestionGroup, Rate } from "../../api/types";
import type { Question } from "../../api/questions";
import { DISCIPLINES } from "../../games/discipline";
import { trade } from "../../trade";
import { percent } from "../../words";

export type Measure = QuestionAnswer["measure"];
export type Value = QuestionGroup["values"][number];

/** What can be asked, in groups, and told apart by what: the words of the trade. */
export const { measures: MEASURES, by: BY } = trade;

export const onTheTable = (by: string) => (trade.squares as readonly string[]).includes(by);
export const acrossTheMouth = (by: string) => by === trade.mouth;
export const heldAgainst = (by: string) => (trade.estimates as readonly string[]).includes(by);

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
  {
    name: "pocket",
    words: "pocket",
    values: same(["head-left", "head-right", "side-left", "side-right", "foot-left", "foot-right"]),
  },
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
    name: "stake",
    words: "stake",
    values: [
      ["1", "could end the match"],
      ["0", "more racks to come"],
    ],
  },
  { name: "phase", words: "phase", values: same(["opening", "pattern", "recovery", "end"]) },
  { name: "reach", words: "reach", values: same(["comfortable", "stretched", "rest", "off hand"]) },
  { name: "cueing", words: "cue", values: same(["free", "off the rail", "over a ball"]) },
  {
    name: "took",
    words: "rack",
    values: [
      ["1", "racks won"],
      ["0", "racks lost"],
    ],
  },
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
  measure.kind !== "mean" || measure.unit === "points" || measure.unit === "m" ? 100 : 1;

export function axisOf(measure: Measure): string {
  if (measure.kind === "share") return `per cent of the ${measure.of}`;
  if (measure.kind === "rate") return `per cent ${measure.what}`;
  if (measure.unit === "points") return "points of win chance a stroke";
  if (measure.unit === "") return measure.words;
  if (measure.unit === "s") return "seconds";
  const ends = { along: "short – long", across: "right – left" }[measure.name];
  return ends ? `centimetres, ${ends}` : "centimetres";
}

/** A bare number of this measure: per cent, centimetres, points, seconds. */
export function numberOf(measure: Measure, value: number | null): string {
  if (value === null) return "–";
  const digits = measure.kind !== "mean" || measure.unit === "m" ? 0 : 1;
  return (value * scaleOf(measure)).toFixed(digits).replace("-", "−");
}

/** How many a share of all is. */
export const countOf = (value: Value) => Math.round((middleOf(value) ?? 0) * value.n);

/** What a value is of: "n 180"; of a share how many of all. */
export const sampleWords = (measure: Measure, value: Value) =>
  measure.kind === "share" ? `${String(countOf(value))} of ${String(value.n)}` : `n ${String(value.n)}`;

/** "62 % (55 to 69)". */
export function valueWords(measure: Measure, value: Value): string {
  const middle = middleOf(value);
  if (middle === null) return "–";
  const scale = scaleOf(measure);
  const digits = measure.kind === "mean" ? 1 : 0;
  const number = (one: number) => (one * scale).toFixed(digits).replace("-", "−");
  const unit = measure.kind !== "mean" ? "" : measure.unit === "m" ? " cm" : measure.unit === "s" ? " s" : "";
  const interval = value.low === null ? "" : ` (${number(value.low)} to ${number(value.high ?? 0)})`;
  const first = measure.kind !== "mean" ? percent(middle) : `${number(middle)}${unit}`;
  return `${first}${interval}`;
}
