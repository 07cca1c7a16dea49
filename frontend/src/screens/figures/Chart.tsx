/** The answer as a picture: a dot on its interval for every field, or a curve with its band over days. */
import * as Plot from "@observablehq/plot";
import { useEffect, useRef } from "react";

import type { QuestionAnswer } from "../../api/types";
import { COLOURS, STYLE, curvePlot } from "../../parts/curve";
import { axisOf, heldAgainst, middleOf, scaleOf } from "./asked";

const ROW = 34; // px for a field

export function Chart({ answer, width }: { answer: QuestionAnswer; width: number }) {
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const curved = answer.curves.some((curve) => curve.length);
    const drawn = curved
      ? curves
      : heldAgainst(answer.by) && answer.measure.kind === "rate"
        ? calibration
        : intervals;
    frame.current?.replaceChildren(drawn(answer, width));
  }, [answer, width]);
  return <div ref={frame} aria-hidden data-testid="chart" />;
}

function intervals({ measure, groups, series, whole }: QuestionAnswer, width: number) {
  const scale = scaleOf(measure);
  const fields = groups.flatMap((group) =>
    group.values.map((value, at) => ({
      field: group.words,
      at,
      middle: (middleOf(value) ?? NaN) * scale,
      low: (value.low ?? NaN) * scale,
      high: (value.high ?? NaN) * scale,
      n: value.n,
    })),
  );
  const expected = groups.flatMap((group) =>
    group.expected.flatMap((one, at) => (one === null ? [] : [{ field: group.words, at, one: one * scale }])),
  );
  const shift = (at: number) => (series.length === 1 ? 0 : at === 0 ? -6 : 6);
  const told = fields.filter((one) => one.n > 0);
  const means = whole.flatMap((value, at) => {
    const middle = middleOf(value);
    return middle === null || measure.kind === "share" ? [] : [{ middle: middle * scale, at }];
  });
  return Plot.plot({
    width,
    marginBottom: 44,
    height: groups.length * ROW + 74,
    marginLeft: Math.min(170, 24 + 7 * Math.max(4, ...groups.map((group) => group.words.length))),
    style: STYLE,
    x: {
      label: axisOf(measure),
      labelOffset: 40,
      grid: true,
      ...(measure.kind === "rate" ? { domain: [0, 100] } : { nice: true, zero: true }),
    },
    y: { label: null, domain: groups.map((group) => group.words) },
    marks: [
      ...(measure.kind === "mean" ? [Plot.ruleX([0], { stroke: "currentColor" })] : []),
      ...means.map((one) => Plot.ruleX([one.middle], { stroke: COLOURS[one.at], strokeDasharray: "2 4" })),
      ...series.map((_, at) => {
        const own = told.filter((one) => one.at === at);
        const [dy, colour] = [shift(at), COLOURS[at] ?? ""];
        return Plot.marks(
          Plot.ruleY(own, { y: "field", x1: "low", x2: "high", stroke: colour, strokeWidth: 2.5, dy }),
          Plot.dot(own, {
            y: "field",
            x: "middle",
            r: 5,
            dy,
            fill: at === 0 ? colour : "var(--color-base-100)",
            stroke: colour,
            strokeWidth: 2,
            symbol: at === 0 ? "circle" : "square",
          }),
          Plot.tickX(
            expected.filter((one) => one.at === at),
            { y: "field", x: "one", stroke: "currentColor", strokeWidth: 2, dy, insetTop: 9, insetBottom: 9 },
          ),
        );
      }),
    ],
  });
}

/** What happened against the chance that was said before: on the diagonal the two are the same. */
function calibration({ measure, by_words, groups, series }: QuestionAnswer, width: number) {
  const points = groups.flatMap((group) =>
    group.values.flatMap((value, at) => {
      const expected = group.expected[at] ?? null;
      return expected === null || value.n === 0
        ? []
        : [
            {
              at,
              x: expected * 100,
              y: (middleOf(value) ?? NaN) * 100,
              low: (value.low ?? NaN) * 100,
              high: (value.high ?? NaN) * 100,
            },
          ];
    }),
  );
  return Plot.plot({
    width: Math.min(width, 560),
    height: 420,
    marginBottom: 44,
    marginTop: 30,
    style: STYLE,
    x: { domain: [0, 100], grid: true, label: `per cent, ${by_words}`, labelOffset: 40 },
    y: { domain: [0, 100], grid: true, label: axisOf(measure) },
    marks: [
      Plot.line(
        [
          [0, 0],
          [100, 100],
        ],
        { stroke: "currentColor", strokeDasharray: "3 4" },
      ),
      ...series.map((_, at) => {
        const own = points.filter((one) => one.at === at);
        const colour = COLOURS[at] ?? "";
        return Plot.marks(
          Plot.ruleX(own, { x: "x", y1: "low", y2: "high", stroke: colour, strokeWidth: 2.5 }),
          Plot.dot(own, {
            x: "x",
            y: "y",
            r: 5,
            fill: at === 0 ? colour : "var(--color-base-100)",
            stroke: colour,
            strokeWidth: 2,
            symbol: at === 0 ? "circle" : "square",
          }),
        );
      }),
    ],
  });
}

function curves({ measure, curves: told, practised }: QuestionAnswer, width: number) {
  const days = practised.map((day) => new Date(day));
  const under = [Plot.ruleX(days, { y1: 0, y2: 4, stroke: "var(--color-success)", strokeWidth: 2 })];
  return curvePlot(told, { width, height: 340, label: axisOf(measure), under });
}

/** The picture as a file of its own, its colours written out. */
export function pictureOf(frame: HTMLElement): Blob | null {
  const svg = frame.querySelector("svg");
  if (!svg) return null;
  const copy = svg.cloneNode(true) as SVGElement;
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  const style = getComputedStyle(document.documentElement);
  const text = new XMLSerializer()
    .serializeToString(copy)
    .replace(/var\((--[a-z0-9-]+)\)/g, (_, name: string) => style.getPropertyValue(name) || "#333");
  return new Blob([text], { type: "image/svg+xml" });
}

/** The same as points, twice as fine as on the page. */
export async function paintedOf(svg: Blob, width: number, height: number): Promise<Blob | null> {
  const image = new Image();
  const address = URL.createObjectURL(svg);
  await new Promise((done, failed) => {
    image.onload = done;
    image.onerror = failed;
    image.src = address;
  });
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [2 * width, 2 * height];
  const context = canvas.getContext("2d");
  if (!context) return null;
  context.fillStyle = "#ffffff";
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  URL.revokeObjectURL(address);
  return new Promise((done) => {
    canvas.toBlob(done, "image/png");
  });
}
