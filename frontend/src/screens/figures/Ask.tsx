/** A question and its answer: the sentence, the picture, its numbers, and beside it the shots behind a field. */
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";

import { useAnswer, useShotsOf, type Question } from "../../api/questions";
import type { QuestionAnswer } from "../../api/types";
import { useAddress } from "../../parts/address";
import { Problem } from "../../parts/Problem";
import { percent } from "../../words";
import { acrossTheMouth, heldAgainst, onTheTable, questionOf, sampleWords, valueWords } from "./asked";
import { Chart, paintedOf, pictureOf } from "./Chart";
import { MouthMap } from "./MouthMap";
import { QuestionBar } from "./QuestionBar";
import { ShotsList } from "./ShotsList";
import { TableMap } from "./TableMap";

export function Ask() {
  const navigate = useNavigate();
  const [address, change] = useAddress();
  const question = questionOf(address);
  const at = address.get("at");
  const { data, error } = useAnswer(question);
  const look = (key: string | null) => {
    change({ at: key === null || key === at ? null : key || "-" });
  };
  return (
    <>
      <QuestionBar
        question={question}
        onChange={(patch) => {
          change({ at: null, ...patch });
        }}
        onOpen={(search) => void navigate({ search })}
      />
      <Problem of={error} />
      {data && <Answer answer={data} question={question} at={at === "-" ? "" : at} onLook={look} />}
    </>
  );
}

interface AnswerProps {
  answer: QuestionAnswer;
  question: Question;
  at: string | null;
  onLook: (key: string | null) => void;
}

function Answer({ answer, question, at, onLook }: AnswerProps) {
  const { ref, width } = useWidth();
  const Map = onTheTable(answer.by) ? TableMap : acrossTheMouth(answer.by) ? MouthMap : null;
  const nothing = answer.whole.every((value) => value.n === 0);
  return (
    <div className="grid gap-6 lg:grid-cols-[minmax(0,1fr)_340px]">
      <section aria-label="Answer" className="min-w-0 space-y-3">
        <p className="font-serif text-[17px]" data-testid="said" aria-live="polite">
          {nothing ? "Nothing was logged that answers this." : answer.said}
        </p>
        <Caution answer={answer} />
        <Legend answer={answer} />
        {answer.notes.map((note) => (
          <p key={note} className="max-w-2xl text-[13px]" data-testid="note">
            {note}
          </p>
        ))}
        <div ref={ref}>
          {!nothing && Map
            ? answer.series.map((name, at) => <Map key={name} answer={answer} series={at} onLook={onLook} />)
            : !nothing && width > 0 && <Chart answer={answer} width={width} />}
        </div>
        {!nothing && <Numbers answer={answer} at={at} onLook={onLook} />}
        {!nothing && <TakeAway frame={ref} question={question} />}
      </section>
      <aside className="min-w-0 lg:sticky lg:top-3 lg:self-start">
        {at === null ? (
          <p className="text-[13px] opacity-75">
            {nothing ? "" : "Choose a row of the numbers to see the shots behind it."}
          </p>
        ) : (
          <Behind question={question} at={at} answer={answer} />
        )}
      </aside>
    </div>
  );
}

/** What the marks of the picture are. */
function Legend({ answer }: { answer: QuestionAnswer }) {
  const expects =
    !heldAgainst(answer.by) &&
    !onTheTable(answer.by) &&
    !acrossTheMouth(answer.by) &&
    answer.curves.length === 0 &&
    answer.groups.some((group) => group.expected.some((one) => one !== null));
  if (answer.series.length === 1 && !expects) return null;
  return (
    <p className="flex flex-wrap gap-x-4 text-[12px]">
      {answer.series.map((name, at) => (
        <span key={name}>
          <span className={at === 0 ? "text-primary" : "text-secondary"} aria-hidden>
            {at === 0 ? "●" : "□"}
          </span>{" "}
          {name}
        </span>
      ))}
      {expects && (
        <span>
          <b aria-hidden>|</b> {answer.measure.expects}
        </span>
      )}
    </p>
  );
}

/** What has to be known before the numbers are believed. */
function Caution({ answer }: { answer: QuestionAnswer }) {
  const { difference, many, left_out: out, not_shown: rest } = answer;
  const words = [
    difference &&
      `The chance that the first is ${difference.difference >= 0 ? "above" : "below"} the second at all: ${percent(difference.chance)}.`,
    difference?.adjusted &&
      "Compared on the same shots: what each makes of both players’ shots together, by their cut, distance and window.",
    many && `${many} fields looked at together: one in twenty leaves its interval by chance alone.`,
    out > 0 && `${out} are left out: nobody knows it of them.`,
    rest > 0 && `${rest} smaller fields are not shown.`,
  ].filter(Boolean);
  return words.length ? <p className="max-w-2xl text-[12px] opacity-80">{words.join(" ")}</p> : null;
}

/** Every value of the picture as a table; a row leads to its shots. */
function Numbers({ answer, at, onLook }: Omit<AnswerProps, "question">) {
  if (answer.by === "day" && answer.curves.some((curve) => curve.length))
    return <DayNumbers answer={answer} at={at} onLook={onLook} />;
  return (
    <div className="overflow-x-auto">
      <table className="table-sm table [&_th]:text-base-content" data-testid="numbers">
        <thead>
          <tr>
            <th scope="col">{answer.by_words}</th>
            {answer.series.map((name) => (
              <th key={name} scope="col" className="max-sm:px-2">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {answer.groups.map((group) => (
            <tr key={group.key} className={group.key === at ? "bg-base-200" : ""}>
              <th scope="row" className="font-normal">
                <button
                  className="cursor-pointer text-left hover:underline"
                  aria-expanded={group.key === at}
                  onClick={() => {
                    onLook(group.key);
                  }}
                >
                  {group.words || "all together"}
                </button>
              </th>
              {group.values.map((value, index) => (
                <td key={index} className="max-sm:px-2">
                  <span className="whitespace-nowrap">{valueWords(answer.measure, value)}</span>{" "}
                  <span className="text-[11px] whitespace-nowrap opacity-75">
                    {sampleWords(answer.measure, value)}
                  </span>{" "}
                  <Expected of={group.expected[index] ?? null} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Expected({ of }: { of: number | null }) {
  return of === null ? null : (
    <span className="text-[11px] whitespace-nowrap opacity-75 sm:ml-1">expected {percent(of)}</span>
  );
}

/** Days are many: they open on demand. */
function DayNumbers(props: Omit<AnswerProps, "question">) {
  return (
    <details>
      <summary className="cursor-pointer text-[13px]">the days one by one</summary>
      <Numbers {...props} answer={{ ...props.answer, curves: [] }} />
    </details>
  );
}

function Behind({ question, at, answer }: { question: Question; at: string; answer: QuestionAnswer }) {
  const found = useShotsOf(question, at);
  const field = answer.groups.find((group) => group.key === at);
  return <ShotsList title={field?.words || answer.measure.words} {...found} />;
}

/** The picture as SVG and PNG, the numbers as CSV and XLSX. */
function TakeAway({
  frame,
  question,
}: {
  frame: React.RefObject<HTMLDivElement | null>;
  question: Question;
}) {
  const save = (blob: Blob | null, name: string) => {
    if (!blob) return;
    const link = document.createElement("a");
    link.href = URL.createObjectURL(blob);
    link.download = name;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  const picture = () => (frame.current ? pictureOf(frame.current) : null);
  const table = (as: string) => `/api/question/table?${new URLSearchParams({ ...question, as }).toString()}`;
  return (
    <p className="flex flex-wrap gap-2 text-[12px]">
      <span className="opacity-75">take away</span>
      <button
        className="chip"
        onClick={() => {
          save(picture(), "answer.svg");
        }}
      >
        picture, SVG
      </button>
      <button
        className="chip"
        onClick={() => {
          const svg = picture();
          const box = frame.current?.querySelector("svg")?.getBoundingClientRect();
          if (svg && box)
            void paintedOf(svg, box.width, box.height).then((blob) => {
              save(blob, "answer.png");
            });
        }}
      >
        picture, PNG
      </button>
      <a className="chip" href={table("csv")} download>
        numbers, CSV
      </a>
      <a className="chip" href={table("xlsx")} download>
        numbers, XLSX
      </a>
    </p>
  );
}

/** A frame that says how wide it is. */
function useWidth() {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const frame = ref.current;
    if (!frame) return;
    const seen = new ResizeObserver(() => {
      setWidth(frame.clientWidth);
    });
    seen.observe(frame);
    return () => {
      seen.disconnect();
    };
  }, []);
  return { ref, width };
}
