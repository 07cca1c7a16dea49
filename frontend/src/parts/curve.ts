/** Success over days as a smooth curve with its band, drawn once for figures and practice. */
import * as Plot from "@observablehq/plot";

const UNIX = 719_163; // days from the first of January of the year 1 to that of 1970

/** Days count from the first of January of the year 1, as the server has them. */
export const dateOf = (day: number) => new Date((day - UNIX) * 86_400_000);

interface Point {
  day: number;
  p: number | null;
  low: number;
  high: number;
}

interface Frame {
  width: number;
  height: number;
  label: string;
  /** Marks of its own, under the curves. */
  under: Plot.Markish[];
}

export const COLOURS = ["var(--color-primary)", "var(--color-secondary)"];
export const STYLE = {
  background: "transparent",
  color: "var(--color-base-content)",
  fontSize: "12px",
  fontFamily: "inherit",
};

export function curvePlot(curves: Point[][], { width, height, label, under }: Frame) {
  return Plot.plot({
    width,
    height,
    marginTop: 30,
    style: STYLE,
    x: { type: "utc", label: null },
    y: { domain: [0, 100], grid: true, label },
    marks: [
      ...under,
      ...curves.flatMap((curve, at) => {
        const points = curve.map(({ day, p, low, high }) => ({
          day: dateOf(day),
          p: (p ?? NaN) * 100,
          low: low * 100,
          high: high * 100,
        }));
        const colour = COLOURS[at] ?? "currentColor";
        if (points.length === 1)
          // one day: a point on its interval
          return [
            Plot.ruleX(points, { x: "day", y1: "low", y2: "high", stroke: colour, strokeWidth: 2.5 }),
            Plot.dot(points, { x: "day", y: "p", r: 5, fill: colour }),
          ];
        return [
          Plot.areaY(points, { x: "day", y1: "low", y2: "high", fill: colour, fillOpacity: 0.16 }),
          Plot.lineY(points, { x: "day", y: "p", stroke: colour, strokeWidth: 2.5 }),
        ];
      }),
    ],
  });
}
