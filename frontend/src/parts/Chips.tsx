/** Small controls: a choice of words, a chip, and a button as a chip with the key that does the same. */
import type { ReactNode } from "react";

export function Choice<T extends string>({
  label,
  value,
  options,
  empty = "unknown",
  onChange,
}: {
  label: string;
  value: T;
  options: readonly T[];
  /** What the empty option is called. */
  empty?: string;
  onChange: (value: T) => void;
}) {
  return (
    <select
      aria-label={label}
      className="select select-xs w-auto"
      value={value}
      onChange={(event) => {
        const chosen = options.find((one) => one === event.target.value);
        if (chosen !== undefined) onChange(chosen);
        event.currentTarget.blur(); // keys are the bench's again
      }}
    >
      {options.map((option) => (
        <option key={option} value={option}>
          {option || empty}
        </option>
      ))}
    </select>
  );
}

export function Chip({
  on = false,
  faint = false,
  name,
  hint,
  onClick,
  children,
}: {
  on?: boolean;
  faint?: boolean;
  name?: string;
  hint?: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className={`chip ${on && faint ? "opacity-70" : ""}`}
      aria-pressed={on}
      aria-label={name}
      onClick={onClick}
    >
      {children}{" "}
      {hint && (
        <span className="key" aria-hidden>
          {hint}
        </span>
      )}
    </button>
  );
}

/** A button as a chip with the key that does the same. */
export function KeyChip(props: {
  name: string;
  hint?: string;
  on?: boolean;
  off?: boolean;
  onClick: () => void;
}) {
  return (
    <button className="chip" aria-pressed={props.on} disabled={props.off} onClick={props.onClick}>
      {props.name}{" "}
      {props.hint && (
        <span className="key" aria-hidden>
          {props.hint}
        </span>
      )}
    </button>
  );
}
