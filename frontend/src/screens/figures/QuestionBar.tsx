/** The question bar: one sentence whose words are chosen – what, told apart by what, who, against whom, when, where. */
import { useState } from "react";

import { usePlayers } from "../../api/queries";
import { useKeepQuestion, useKeptQuestions, type Question } from "../../api/questions";
import { Problem } from "../../parts/Problem";
import { BY, CONDITIONS, GAMES, MEASURES, SESSIONS } from "./asked";

interface Props {
  question: Question;
  onChange: (patch: Question) => void;
  onOpen: (asked: string) => void;
}

export function QuestionBar({ question, onChange, onOpen }: Props) {
  const players = usePlayers().data?.players ?? [];
  const names = players
    .filter((one) => one.joined_to === null)
    .map((one): [string, string] => [String(one.id), one.name]);
  const [more, setMore] = useState(false);
  const named = CONDITIONS.filter((one) => question[one.name]);
  return (
    <section aria-label="Question" className="sheet space-y-2 p-3">
      <div className="flex flex-wrap items-baseline gap-x-2 gap-y-2">
        <Word label="What" name="measure" groups={MEASURES} {...{ question, onChange }} />
        <span>by</span>
        <Word label="Told apart by" name="by" values={BY} {...{ question, onChange }} />
        <span>of</span>
        <Word label="Player" name="player" free="everybody" values={names} {...{ question, onChange }} />
        <span>against</span>
        <Word
          label="Against"
          name="versus"
          free="nobody"
          values={question.player ? names.filter(([id]) => id !== question.player) : []}
          {...{ question, onChange }}
        />
        {!question.versus && (
          <Day
            label="Before and from a day on"
            name="parted"
            words="or themselves before"
            {...{ question, onChange }}
          />
        )}
      </div>
      <div className="flex flex-wrap items-baseline gap-x-2 gap-y-2 text-[13px]">
        <span className="opacity-75">in</span>
        <Word
          label="Session"
          name="session"
          values={SESSIONS.map((one) => [one, one.replace("-", " ")])}
          {...{ question, onChange }}
        />
        <Word label="Game" name="discipline" free="all games" values={GAMES} {...{ question, onChange }} />
        <Day label="Since" name="since" words="since" {...{ question, onChange }} />
        <Day label="Until" name="until" words="until" {...{ question, onChange }} />
        {(more ? CONDITIONS : named).map((one) => (
          <Word
            key={one.name}
            label={one.words}
            name={one.name}
            free={`any ${one.words}`}
            values={one.values}
            {...{ question, onChange }}
          />
        ))}
        <button
          className="chip"
          aria-expanded={more}
          onClick={() => {
            setMore(!more);
          }}
        >
          {more ? "fewer conditions" : "more conditions"}
        </button>
        <Kept question={question} onOpen={onOpen} />
      </div>
    </section>
  );
}

interface WordProps {
  label: string;
  name: string;
  values?: Values;
  /** The same under headings. */
  groups?: readonly (readonly [string, Values])[];
  free?: string;
  question: Question;
  onChange: (patch: Question) => void;
}

type Values = readonly (readonly [string, string])[];

function Word({ label, name, values = [], groups = [], free, question, onChange }: WordProps) {
  return (
    <select
      aria-label={label}
      className="select select-sm w-auto max-w-60"
      value={question[name] ?? ""}
      onChange={(event) => {
        onChange({ [name]: event.target.value });
      }}
    >
      {free !== undefined && <option value="">{free}</option>}
      <Options values={values} />
      {groups.map(([heading, own]) => (
        <optgroup key={heading} label={heading}>
          <Options values={own} />
        </optgroup>
      ))}
    </select>
  );
}

function Options({ values }: { values: Values }) {
  return values.map(([value, words]) => (
    <option key={value} value={value}>
      {words}
    </option>
  ));
}

function Day({ label, name, words, question, onChange }: Omit<WordProps, "values"> & { words: string }) {
  return (
    <label className="flex items-baseline gap-1">
      <span className="opacity-75">{words}</span>
      <input
        type="date"
        aria-label={label}
        className="input input-sm w-36"
        value={question[name] ?? ""}
        onChange={(event) => {
          onChange({ [name]: event.target.value });
        }}
      />
    </label>
  );
}

/** Questions kept by name: opened, kept, given up. */
function Kept({ question, onOpen }: { question: Question; onOpen: (asked: string) => void }) {
  const kept = useKeptQuestions();
  const keep = useKeepQuestion();
  const [name, setName] = useState("");
  const questions = kept.data?.questions ?? [];
  const asked = new URLSearchParams(question).toString();
  const own = questions.find((one) => one.asked === asked);
  return (
    <form
      className="ml-auto flex flex-wrap items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate({ name, asked });
        setName("");
      }}
    >
      {questions.length > 0 && (
        <select
          aria-label="Kept questions"
          className="select select-sm w-auto max-w-44"
          value={own?.name ?? ""}
          onChange={(event) => {
            const chosen = questions.find((one) => one.name === event.target.value);
            if (chosen) onOpen(chosen.asked);
          }}
        >
          <option value="">kept questions</option>
          {questions.map((one) => (
            <option key={one.name}>{one.name}</option>
          ))}
        </select>
      )}
      {own ? (
        <button
          type="button"
          className="chip"
          onClick={() => {
            keep.mutate({ name: own.name, asked: null });
          }}
        >
          give up “{own.name}”
        </button>
      ) : (
        <>
          <input
            aria-label="Name of the question"
            placeholder="keep as …"
            maxLength={120}
            className="input input-sm w-32"
            value={name}
            onChange={(event) => {
              setName(event.target.value);
            }}
          />
          {name.trim() !== "" && <button className="chip">keep</button>}
        </>
      )}
      <Problem of={keep.error} />
    </form>
  );
}
