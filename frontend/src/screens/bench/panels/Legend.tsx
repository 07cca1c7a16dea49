/** What the areas on the plan mean, in words, for those that are drawn. */
import { Shapes, type Line, type Shape } from "../../../table/shapes";
import type { Place } from "../../../api/types";
import { GRADES } from "../../../words";

const WORDS: [Line, string][] = [
  ...(["ideal", "acceptable", "recoverable", "forbidden"] as const).map((one): [Line, string] => [
    one,
    GRADES[one] ?? one,
  ]),
  ["error", "how far off it stopped"],
  ["route", "last leg"],
];

const SWATCH: Place[] = [[1, 1], [15, 1], [15, 9], [1, 9]]; // prettier-ignore
const AREAS = new Set<Line>(["ideal", "acceptable", "recoverable", "forbidden"]);

export function Legend({ shapes }: { shapes: Shape[] }) {
  const drawn = WORDS.filter(([line]) => shapes.some((shape) => shape.line === line));
  if (!drawn.length) return null;
  return (
    <ul className="flex flex-wrap gap-x-4 px-2 py-1 text-[12px]" aria-label="Legend">
      {drawn.map(([line, words]) => (
        <li key={line} className="flex items-center gap-1">
          <svg viewBox="0 0 16 10" className="h-2.5 w-4" aria-hidden>
            <Shapes
              shapes={[AREAS.has(line) ? { line, points: SWATCH, closed: true } : { line, points: [[0, 5], [16, 5]] }]} // prettier-ignore
              to={(at) => at}
              unit={1}
            />
          </svg>
          {words}
        </li>
      ))}
    </ul>
  );
}
