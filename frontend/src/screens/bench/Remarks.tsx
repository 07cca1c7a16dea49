/** What the coach adds to a shot: causes of an error, and a note. */
import { useEffect, useRef, useState } from "react";

import { Chip, Line } from "../../parts/Chips";
import { CAUSES } from "../../words";

export function Causes({ chosen, onChange }: { chosen: string[]; onChange: (causes: string[]) => void }) {
  const [open, setOpen] = useState(false);
  const offered = open ? CAUSES : [];
  return (
    <Line name="Causes">
      {[...new Set([...chosen, ...offered])].map((cause) => (
        <Chip
          key={cause}
          on={chosen.includes(cause)}
          onClick={() => {
            onChange(chosen.includes(cause) ? chosen.filter((one) => one !== cause) : [...chosen, cause]);
          }}
        >
          {cause}
        </Chip>
      ))}
      <button
        className="btn btn-ghost btn-xs"
        aria-expanded={open}
        onClick={() => {
          setOpen(!open);
        }}
      >
        {open ? "fewer" : "add a cause"}
      </button>
    </Line>
  );
}

const PAUSE = 700; // milliseconds without a key after which a note is written

export function Note({ note, onDone }: { note: string; onDone: (note: string) => void }) {
  const [text, setText] = useState(note);
  const field = useRef<HTMLTextAreaElement>(null);
  const done = useRef(onDone);
  useEffect(() => {
    if (field.current !== document.activeElement) setText(note); // written elsewhere in the meantime
  }, [note]);
  useEffect(() => {
    done.current = onDone;
  });
  useEffect(() => {
    const pause = setTimeout(() => {
      done.current(text);
    }, PAUSE);
    return () => {
      clearTimeout(pause);
    };
  }, [text]);
  return (
    <Line name="Note">
      <textarea
        ref={field}
        aria-label="Note"
        rows={2}
        maxLength={4000}
        className="textarea textarea-sm min-h-0 w-full flex-1"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
        }}
        onBlur={() => {
          onDone(text);
        }}
        placeholder="What to tell the player; open questions"
      />
    </Line>
  );
}
