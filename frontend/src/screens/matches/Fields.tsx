/** Labelled fields of the form on which a match is begun. */
import type { ReactNode } from "react";

export function Field({
  label,
  children,
  className = "",
}: {
  label: string;
  children: ReactNode;
  className?: string;
}) {
  return (
    <label className={`flex flex-col gap-1 ${className}`}>
      <span className="caption">{label}</span>
      {children}
    </label>
  );
}

interface TextProps {
  name: string;
  label: string;
  required?: boolean;
  value?: string;
  className?: string;
}

export function Text({ name, label, required = false, value = "", className = "" }: TextProps) {
  return (
    <Field label={label} className={className}>
      <input
        name={name}
        dir="auto"
        defaultValue={value}
        required={required}
        pattern={required ? ".*\\S.*" : undefined}
        title={required ? "a name, not only blanks" : undefined}
        maxLength={200}
        className="input input-sm w-full"
      />
    </Field>
  );
}

export function Whole({
  name,
  label,
  value = 0,
  least = 0,
  most = 1000,
}: {
  name: string;
  label: string;
  value?: number | "";
  least?: number;
  most?: number;
}) {
  return (
    <Field label={label}>
      <input
        name={name}
        type="number"
        min={least}
        max={most}
        defaultValue={value}
        className="input input-sm w-full"
      />
    </Field>
  );
}

export function Pick<T extends string>({
  name,
  label,
  options,
  value,
  onChange,
}: {
  name: string;
  label: string;
  options: readonly (readonly [T, string])[];
  value?: T;
  onChange?: (value: T) => void;
}) {
  return (
    <Field label={label}>
      <select
        name={name}
        className="select select-sm w-full"
        {...(onChange ? { value } : { defaultValue: value })}
        onChange={(event) => {
          const chosen = options.find(([id]) => id === event.target.value);
          if (chosen) onChange?.(chosen[0]);
        }}
      >
        {options.map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </Field>
  );
}

/** What a form says, if it is one of these. */
export const oneOf = <T extends string>(all: readonly T[], said: string): T | undefined =>
  all.find((one) => one === said);

/** Sessions of one person. */
export const ALONE: readonly string[] = ["solo", "both-sides"];

export const SEATS = ["A", "B"] as const;

export function Tick({ name, label }: { name: string; label: string }) {
  return (
    <label className="flex items-center gap-2 self-end pb-1">
      <input type="checkbox" name={name} className="checkbox checkbox-xs" /> {label}
    </label>
  );
}
