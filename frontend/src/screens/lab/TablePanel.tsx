/** Which table it is played on, and how its cloth and rails run. */
import { onTable, type PanelProps } from "./state";
import { Choice, Range } from "./StrokePanel";

const OFFERED = [
  { name: "roll_friction", label: "Cloth", low: "fast", high: "slow", min: 0.004, max: 0.02, step: 0.0005 },
  { name: "rail_restitution", label: "Rails", low: "dead", high: "lively", min: 0.7, max: 1, step: 0.01 },
] as const;

export function TablePanel({ lab, choices, change }: PanelProps) {
  const fitting = choices.tables.filter((one) => one.disciplines.includes(lab.discipline));
  const set = choices.tables.find((one) => one.id === lab.table)?.physics;
  return (
    <section aria-label="Table" className="sheet flex flex-col gap-2 p-3">
      <Choice
        label="Table"
        value={typeof lab.table === "string" ? lab.table : ""}
        onChange={(id) => {
          const chosen = fitting.find((one) => one.id === id);
          if (chosen) change(onTable(lab, id, chosen.table));
        }}
      >
        {typeof lab.table !== "string" && <option value="">this match&apos;s own</option>}
        {fitting.map((one) => (
          <option key={one.id} value={one.id}>
            {one.id.replace("-", " ").replace("ft", " ft")}
          </option>
        ))}
      </Choice>
      {OFFERED.map(({ name, label, low, high, min, max, step }) => {
        const value = lab.physics[name] ?? set?.[name];
        if (value === undefined) return null;
        const changed = name in lab.physics;
        return (
          <Range
            key={name}
            label={`${label}, ${low} to ${high}`}
            words={`${value}${changed ? "" : " (own, assumed)"}`}
            value={value}
            min={min}
            max={max}
            step={step}
            onChange={(chosen) => {
              change({ physics: { ...lab.physics, [name]: chosen } });
            }}
          />
        );
      })}
      {Object.keys(lab.physics).length > 0 && (
        <button
          className="chip self-start"
          onClick={() => {
            change({ physics: {} });
          }}
        >
          as the table runs
        </button>
      )}
    </section>
  );
}
