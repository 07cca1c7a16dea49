/** The options of a discipline's rules, with the published rules as they stand; what differs goes into the match. */
import type { DisciplineRules } from "../../api/types";
import { Pick, Whole } from "./Fields";

type Option = DisciplineRules["options"][number];

const FIRST = ["breaks", "sets", "reds", "miss"]; // asked for openly; the others lie behind a heading

export function Rules({ rules }: { rules: DisciplineRules }) {
  const open = rules.options.filter((option) => FIRST.includes(option.name));
  const others = rules.options.filter((option) => !FIRST.includes(option.name));
  return (
    <>
      {open.map((option) => (
        <OptionField key={option.name} option={option} />
      ))}
      {open.some((option) => option.name === "miss") && (
        <p className="col-span-full text-[12px] opacity-80">
          The miss rule is off unless you choose it; in professional play it is on.
        </p>
      )}
      <details className="col-span-full border border-base-300 p-3">
        <summary className="cursor-pointer">
          Other rules ({others.length}); as they stand they are the published ones
          {open.some((option) => option.name === "miss") && ", but for the miss above"}
        </summary>
        <div className="mt-3 grid gap-3 sm:grid-cols-2">
          {others.map((option) => (
            <OptionField key={option.name} option={option} explained />
          ))}
        </div>
      </details>
    </>
  );
}

function OptionField({ option, explained = false }: { option: Option; explained?: boolean }) {
  const name = `rule_${option.name}`;
  const label = option.asks;
  const field = option.values.length ? (
    <Pick
      name={name}
      label={label}
      value={String(option.default)}
      options={option.values.map(
        (value) => [String(value), option.says[String(value)] ?? String(value)] as const,
      )}
    />
  ) : (
    <Whole name={name} label={label} value={Number(option.default)} least={option.least} most={option.most} />
  );
  if (!explained) return field;
  return (
    <div>
      {field}
      <p className="mt-0.5 text-[11px] opacity-75">{option.means}</p>
    </div>
  );
}

/** What the form says of the rules, the order of breaks always, of the rest only what differs. */
export function chosenRules(rules: DisciplineRules, text: (name: string) => string): Record<string, unknown> {
  const entries = rules.options.map(
    (option) => [option, valueOf(option, text(`rule_${option.name}`))] as const,
  );
  return Object.fromEntries(
    entries
      .filter(([option, value]) => option.name === "breaks" || value !== option.default)
      .map(([option, value]) => [option.name, value]),
  );
}

function valueOf(option: Option, said: string): string | number | boolean {
  if (said === "") return option.default;
  if (option.values.length === 0) return Number(said);
  return option.values.find((value) => String(value) === said) ?? option.default;
}
