/** What was special about the day, as fields: options reckon with the table, the hands and what the house allows. */
import type { Header } from "../../api/types";
import { Field, Pick, SEATS, Text, oneOf } from "./Fields";

type Told = Exclude<NonNullable<Header["conditions"]>, string>;

const TABLE = [
  ["pockets", "Pockets", ["tight", "usual", "wide"]],
  ["cloth", "Cloth", ["slow", "usual", "fast"]],
  ["rails", "Rails", ["dead", "usual", "lively"]],
] as const;
const HOUSE = [
  ["rest", "A rest (bridge) is at hand"],
  ["jump", "The house allows jump shots"],
  ["masse", "The house allows masse shots"],
] as const;
const HANDS = ["right", "left", "both"] as const;

/** Older matches have free words only. */
export const toldIn = (header: Partial<Header>): Told =>
  typeof header.conditions === "string" ? { words: header.conditions } : (header.conditions ?? {});

interface Props {
  header: Partial<Header>;
  names: Partial<Record<"A" | "B", string>>;
}

export function Conditions({ header, names }: Props) {
  const told = toldIn(header);
  return (
    <fieldset className="col-span-full grid grid-cols-2 gap-3 border border-base-300 p-3 sm:grid-cols-3">
      <legend className="caption px-1">Conditions, where they were not the usual ones</legend>
      {TABLE.map(([name, label, words]) => (
        <Pick
          key={name}
          name={name}
          label={label}
          value={told[name] ?? "usual"}
          options={words.map((one) => [one, one] as const)}
        />
      ))}
      {HOUSE.map(([name, label]) => (
        <label key={name} className="flex items-center gap-2">
          <input
            type="checkbox"
            name={name}
            className="checkbox checkbox-xs"
            defaultChecked={told[name] !== false}
          />
          {label}
        </label>
      ))}
      {SEATS.filter((seat) => names[seat] !== undefined).map((seat) => (
        <div key={seat} className="col-span-full grid grid-cols-3 items-end gap-3">
          <Pick
            name={`hand_${seat}`}
            label={`${names[seat] || `player ${seat}`} plays with the`}
            value={told[seat]?.hand ?? ""}
            options={[["", "not said"], ...HANDS.map((one) => [one, one === "both" ? "either hand" : `${one} hand`] as const)]} // prettier-ignore
          />
          <Text name={`cue_${seat}`} label="Cue" value={told[seat]?.cue ?? ""} />
          <Pick
            name={`jump_cue_${seat}`}
            label="Jump cue"
            value={JUMP_CUE[String(told[seat]?.jump_cue ?? "")] ?? ""}
            options={[["", "not said"], ["yes", "at hand"], ["no", "none"]] as const} // prettier-ignore
          />
        </div>
      ))}
      <Field label="Hours played before it began">
        <input
          name="hours_before"
          type="number"
          min={0}
          max={48}
          step={0.25}
          defaultValue={told.hours_before ?? ""}
          className="input input-sm w-full"
        />
      </Field>
      <Field label="In words: light, balls, weather, audience" className="sm:col-span-2">
        <input
          name="words"
          maxLength={1000}
          defaultValue={told.words ?? ""}
          className="input input-sm w-full"
          dir="auto"
        />
      </Field>
    </fieldset>
  );
}

const JUMP_CUE: Record<string, "yes" | "no"> = { true: "yes", false: "no" };

/** What these fields say; what is as usual is left out. */
export function conditionsFrom(text: (name: string) => string, before: Told): Told {
  const hours = text("hours_before");
  const told: Told = {
    ...before,
    ...Object.fromEntries(
      TABLE.map(([name, , words]) => [name, oneOf(words.slice() as string[], text(name)) ?? "usual"]),
    ),
    ...Object.fromEntries(HOUSE.map(([name]) => [name, text(name) ? undefined : false])),
    ...Object.fromEntries(SEATS.map((seat) => [seat, seatFrom(text, seat, before[seat])])),
    hours_before: hours ? Number(hours) : undefined,
    words: text("words") || undefined,
  };
  return Object.fromEntries(
    Object.entries(told).filter(([, said]) => said !== undefined && said !== "usual"),
  );
}

function seatFrom(text: (name: string) => string, seat: "A" | "B", before: Told["A"]): Told["A"] {
  const hand = oneOf(HANDS, text(`hand_${seat}`)) ?? null;
  const cue = text(`cue_${seat}`) || null;
  const jump_cue = { yes: true, no: false }[text(`jump_cue_${seat}`)] ?? null;
  return hand === null && cue === null && jump_cue === null ? undefined : { ...before, hand, cue, jump_cue };
}
