/** The answer across a pocket's mouth: how much went where, from too thick to too thin, and what it came to there. */
import type { QuestionAnswer, QuestionGroup } from "../../api/types";
import { COLOURS } from "../../parts/curve";
import { countOf, middleOf, numberOf, sampleWords, valueWords, type Value } from "./asked";

const [WIDTH, HEIGHT] = [400, 240];
const NOSE = 74; // px from the top: the line of the rails' noses
const [LEFT, RIGHT] = [98, 302]; // the tips of the jaws
const LONGEST = 92; // px of the greatest share
const BAR = 44;
/** Where each part stands, as a cut to the right comes up to the pocket. */
const PLACES: [string, number, string][] = [
  ["missed thick", 46, "missed thick"],
  ["thick", 140, "thick side"],
  ["middle", 200, "middle"],
  ["thin", 260, "thin side"],
  ["missed thin", 354, "missed thin"],
];
const JAWS = "in the jaws";

interface Props {
  answer: QuestionAnswer;
  series: number;
  onLook: (key: string) => void;
}

export function MouthMap({ answer, series, onLook }: Props) {
  const told = (key: string) => answer.groups.find((group) => group.key === key);
  const most = Math.max(...answer.groups.map((group) => weightOf(answer, group, series)), 0.001);
  const jaws = told(JAWS);
  const jawsValue = jaws?.values[series];
  return (
    <figure className="max-w-lg">
      <svg
        viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`}
        className="w-full"
        role="group"
        aria-label={`${answer.measure.words}, ${answer.by_words}: ${answer.series[series] ?? ""}`}
        data-testid="mouth"
      >
        <Rail d={`M 0 ${String(NOSE)} H ${String(LEFT)} L ${String(LEFT + 22)} 10 H 0 Z`} />
        <Rail
          d={`M ${String(WIDTH)} ${String(NOSE)} H ${String(RIGHT)} L ${String(RIGHT - 22)} 10 H ${String(WIDTH)} Z`}
        />
        {jaws && (
          <text
            x={WIDTH / 2}
            y={NOSE - 22}
            textAnchor="middle"
            fontSize={12}
            fill="currentColor"
            className="cursor-pointer"
            onClick={() => {
              onLook(JAWS);
            }}
          >
            in the jaws {valueOf(answer, jaws, series)}
            {jawsValue && ` · ${countWords(answer, jawsValue)}`}
          </text>
        )}
        {PLACES.map(([key, x, words]) => (
          <Part
            key={key}
            {...{ x, words, answer, series, onLook }}
            group={told(key)}
            height={(weightOf(answer, told(key), series) / most) * LONGEST}
          />
        ))}
        {answer.series.length > 1 && (
          <text x={8} y={28} fontSize={12} fill="currentColor">
            {answer.series[series]}
          </text>
        )}
      </svg>
      <figcaption className="text-[12px] opacity-75">
        As a cut to the right comes up to the pocket; cuts to the left are turned over.
      </figcaption>
    </figure>
  );
}

const Rail = ({ d }: { d: string }) => (
  <path d={d} fill="var(--color-base-content)" fillOpacity={0.12} stroke="var(--color-base-content)" />
);

interface PartProps extends Props {
  x: number;
  words: string;
  height: number;
  group: QuestionGroup | undefined;
}

function Part({ x, words, height, group, answer, series, onLook }: PartProps) {
  const value = group?.values[series];
  return (
    <g textAnchor="middle" fill="currentColor">
      {group && value && height > 0 && (
        <rect
          x={x - BAR / 2}
          y={NOSE + 4}
          width={BAR}
          height={Math.max(2, height)}
          fill={COLOURS[series]}
          fillOpacity={0.55}
          className="cursor-pointer"
          onClick={() => {
            onLook(group.key);
          }}
        >
          <title>{`${words}: ${valueWords(answer.measure, value)}, ${sampleWords(answer.measure, value)}`}</title>
        </rect>
      )}
      <text x={x} y={NOSE + 20 + Math.max(2, height)} fontSize={13}>
        {group ? valueOf(answer, group, series) : "–"}
        {value && (
          <tspan x={x} dy={13} fontSize={10} opacity={0.8}>
            {countWords(answer, value)}
          </tspan>
        )}
      </text>
      <text x={x} y={HEIGHT - 8} fontSize={11} opacity={0.8}>
        {words}
      </text>
    </g>
  );
}

/** How much of all went there. */
function weightOf(answer: QuestionAnswer, group: QuestionGroup | undefined, series: number): number {
  const value = group?.values[series];
  if (!value) return 0;
  return answer.measure.kind === "share" ? (middleOf(value) ?? 0) : value.n;
}

function valueOf(answer: QuestionAnswer, group: QuestionGroup, series: number): string {
  const value = group.values[series];
  if (!value || value.n === 0) return "–";
  return `${numberOf(answer.measure, middleOf(value))}${answer.measure.kind === "mean" ? "" : " %"}`;
}

const countWords = ({ measure }: QuestionAnswer, value: Value) =>
  measure.kind === "share" ? String(countOf(value)) : `n ${String(value.n)}`;
