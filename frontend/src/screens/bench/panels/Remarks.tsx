/** What the coach adds to a shot in words of his own: a note, and questions with their answers. */
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { ShotDocument } from "../../../api/types";

const PAUSE = 700; // milliseconds without a key after which a note is written

/** Notes that are being typed, by entry: a page that is loaded anew has them still. */
const useTyped = create<{ notes: Record<string, string> }>()(
  persist(() => ({ notes: {} }), { name: "aretane-notes" }),
);

function keepTyped(id: string, text: string | null): void {
  useTyped.setState(({ notes }) => {
    const others = Object.fromEntries(Object.entries(notes).filter(([other]) => other !== id));
    return { notes: text === null ? others : { ...others, [id]: text } };
  });
}

interface NoteProps {
  id: string;
  note: string;
  onDone: (note: string) => void;
  onClose: () => void;
}

/** What was being typed when the page went away is written when it is back. */
export function useKeptNote(id: string, write: (note: string) => void): void {
  const onBack = useEffectEvent(() => {
    const kept = useTyped.getState().notes[id];
    if (kept === undefined) return;
    write(kept);
    keepTyped(id, null);
  });
  useEffect(() => {
    onBack();
  }, [id]);
}

export function Note({ id, note, onDone, onClose }: NoteProps) {
  const kept = useTyped((state) => state.notes[id]);
  const text = kept ?? note;
  const field = useRef<HTMLTextAreaElement>(null);
  const done = useRef(onDone);
  useEffect(() => {
    done.current = onDone;
  });
  useEffect(() => {
    field.current?.focus();
    field.current?.setSelectionRange(-1, -1);
  }, []);
  useEffect(() => {
    if (kept === undefined) return;
    const pause = setTimeout(() => {
      done.current(kept);
      keepTyped(id, null);
    }, PAUSE);
    return () => {
      clearTimeout(pause);
    };
  }, [id, kept]);
  const write = () => {
    if (kept === undefined) return;
    onDone(kept);
    keepTyped(id, null);
  };
  return (
    <textarea
      ref={field}
      aria-label="Note"
      rows={2}
      maxLength={4000}
      className="textarea textarea-sm min-h-0 w-full"
      value={text}
      onChange={(event) => {
        keepTyped(id, event.target.value);
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        write();
        onClose();
      }}
      onBlur={write}
      placeholder="What to tell the player"
    />
  );
}

type Question = NonNullable<ShotDocument["questions"]>[number];

/** Open questions ("why that side?"), and what was answered. */
export function Questions({
  questions,
  onChange,
  onClose,
}: {
  questions: Question[];
  onChange: (questions: Question[]) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState("");
  const leave = (event: React.KeyboardEvent) => {
    if (event.key !== "Escape") return;
    event.stopPropagation();
    onClose();
  };
  return (
    <div className="space-y-1" onKeyDown={leave}>
      {questions.map((one, index) => (
        <label key={index} className="flex items-baseline gap-2">
          <span className="min-w-40">{one.asked}</span>
          <input
            aria-label={`Answer to: ${one.asked}`}
            className="input input-xs flex-1"
            placeholder="not answered yet"
            defaultValue={one.answer ?? ""}
            onBlur={(event) => {
              const answer = event.target.value.trim() || null;
              if (answer !== (one.answer ?? null))
                onChange(questions.map((other, at) => (at === index ? { ...one, answer } : other)));
            }}
          />
        </label>
      ))}
      <input
        aria-label="A question"
        autoFocus
        className="input input-sm w-full"
        placeholder="A question to the player; Enter keeps it"
        maxLength={1000}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
        }}
        onKeyDown={(event) => {
          if (event.key !== "Enter" || !text.trim()) return;
          onChange([...questions, { asked: text.trim(), answer: null }]);
          setText("");
        }}
      />
    </div>
  );
}
