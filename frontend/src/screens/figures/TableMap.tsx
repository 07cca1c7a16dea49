/** The answer laid on the table: how often in every square of a diamond, and what it came to there. */
import type { QuestionAnswer, QuestionGroup } from "../../api/types";
import { COLOURS } from "../../parts/curve";
import { middleOf, numberOf, valueWords } from "./asked";

const [ALONG, ACROSS, SIDE, RAIL] = [8, 4, 60, 26];
const FEW = 5; // strokes that tell hardly anything

interface Props {
  answer: QuestionAnswer;
  /** Whose: the first or the second of two. */
  series: number;
  onLook: (key: string) => void;
}

export function TableMap({ answer, series, onLook }: Props) {
  const most = Math.max(1, ...answer.groups.map((group) => group.values[series]?.n ?? 0));
  const [width, height] = [ALONG * SIDE, ACROSS * SIDE];
  return (
    <svg
      viewBox={`${-RAIL} ${-RAIL} ${width + 2 * RAIL} ${height + 2 * RAIL}`}
      className="w-full max-w-3xl"
      role="group"
      aria-label={`${answer.measure.words}, ${answer.by_words}: ${answer.series[series] ?? ""}`}
      data-testid="table-map"
    >
      <rect
        x={-RAIL / 2}
        y={-RAIL / 2}
        width={width + RAIL}
        height={height + RAIL}
        rx={4}
        fill="none"
        stroke="var(--color-base-content)"
        strokeWidth={RAIL - 8}
        strokeOpacity={0.14}
      />
      {Array.from({ length: ALONG * ACROSS }, (_, square) => (
        <Square
          key={square}
          square={square}
          group={answer.groups.find((group) => group.key === String(square))}
          {...{ answer, series, most, onLook }}
        />
      ))}
      <g fontSize={9} fill="currentColor">
        <text transform={`translate(${-RAIL / 2 + 3} ${height / 2}) rotate(-90)`} textAnchor="middle">
          head
        </text>
        <text transform={`translate(${width + RAIL / 2 + 3} ${height / 2}) rotate(-90)`} textAnchor="middle">
          foot
        </text>
        {answer.series.length > 1 && (
          <text x={2} y={-RAIL / 2 + 3}>
            {answer.series[series]}
          </text>
        )}
      </g>
    </svg>
  );
}

interface SquareProps extends Props {
  square: number;
  group: QuestionGroup | undefined;
  most: number;
}

function Square({ square, group, answer, series, most, onLook }: SquareProps) {
  const [x, y] = [Math.floor(square / ACROSS) * SIDE, (ACROSS - 1 - (square % ACROSS)) * SIDE];
  const value = group?.values[series];
  const told = value && value.n > 0;
  return (
    <g transform={`translate(${x} ${y})`}>
      <rect
        width={SIDE}
        height={SIDE}
        fill={COLOURS[series]}
        fillOpacity={told ? 0.06 + 0.5 * (value.n / most) : 0}
        stroke="var(--color-base-content)"
        strokeOpacity={0.18}
        strokeWidth={0.7}
        className={told ? "cursor-pointer" : ""}
        onClick={() => {
          if (told && group) onLook(group.key);
        }}
      >
        {told && group && (
          <title>{`${group.words}: ${valueWords(answer.measure, value)}, n ${String(value.n)}`}</title>
        )}
      </rect>
      {told && (
        <g fill="currentColor" textAnchor="middle" pointerEvents="none">
          <text x={SIDE / 2} y={SIDE / 2} fontSize={14} opacity={value.n < FEW ? 0.6 : 1}>
            {numberOf(answer.measure, middleOf(value))}
          </text>
          <text x={SIDE / 2} y={SIDE / 2 + 13} fontSize={9} opacity={0.8}>
            n {value.n}
          </text>
        </g>
      )}
    </g>
  );
}
