/** A list in which one finds by typing: arrows choose, Enter takes, Escape leaves. */
import { useEffect, useId, useRef, useState } from "react";

interface Props {
  label: string;
  all: string[];
  chosen?: string[];
  /** Shown beside each, as a key. */
  hints?: Record<string, string | undefined>;
  /** What is typed and not on the list may be taken too. */
  own?: boolean;
  onPick: (one: string) => void;
  onClose: () => void;
}

const MOST = 14;

export function Finder({ label, all, chosen = [], hints = {}, own = false, onPick, onClose }: Props) {
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const field = useRef<HTMLInputElement>(null);
  const list = useId();
  useEffect(() => {
    field.current?.focus();
  }, []);
  const found = ordered(all, typed).slice(0, MOST);
  const offered = found.length || !own || !typed.trim() ? found : [typed.trim()];
  const current = Math.min(at, offered.length - 1);
  const take = (one: string | undefined) => {
    if (!one) return;
    onPick(one);
    setTyped("");
    setAt(0);
    field.current?.focus();
  };
  return (
    <div>
      <input
        ref={field}
        role="combobox"
        aria-label={label}
        aria-expanded
        aria-controls={list}
        aria-activedescendant={offered[current] ? `${list}-${String(current)}` : undefined}
        className="input input-sm w-full max-w-80"
        placeholder="type to find"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setAt(Math.min(current + 1, offered.length - 1));
          else if (event.key === "ArrowUp") setAt(Math.max(0, current - 1));
          else if (event.key === "Enter" && (typed || offered.length === 1)) take(offered[current]);
          else if (event.key === "Enter" || event.key === "Escape") onClose();
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      />
      <ul
        id={list}
        role="listbox"
        aria-label={label}
        aria-multiselectable={own}
        className="mt-1 flex flex-wrap gap-1"
      >
        {offered.map((one, index) => (
          <li
            key={one}
            id={`${list}-${String(index)}`}
            role="option"
            aria-selected={chosen.includes(one)}
            className={`chip ${chosen.includes(one) ? "!bg-base-content !text-base-100" : ""} ${typed && index === current ? "outline-2 outline-primary" : ""}`}
            onPointerDown={(event) => {
              event.preventDefault();
              take(one);
            }}
          >
            {one}{" "}
            {hints[one] && (
              <span className="key" aria-hidden>
                {hints[one]}
              </span>
            )}
          </li>
        ))}
        {offered.length === 0 && <li className="caption">nothing like that</li>}
      </ul>
    </div>
  );
}

/** What begins so first, then words in it that begin so, then what holds it. */
function ordered(all: string[], typed: string): string[] {
  const wanted = typed.trim().toLowerCase();
  if (!wanted) return all;
  const rank = (one: string) => {
    const words = one.toLowerCase();
    if (words.startsWith(wanted)) return 0;
    if (words.includes(` ${wanted}`)) return 1;
    return words.includes(wanted) ? 2 : 3;
  };
  return all.filter((one) => rank(one) < 3).sort((one, other) => rank(one) - rank(other));
}
