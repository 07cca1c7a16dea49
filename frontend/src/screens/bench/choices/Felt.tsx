/** The coach's own estimate and verdict, kept with the shot beside the computed numbers of that moment. */
import { useEffect, useEffectEvent, useState } from "react";

import type { Option, ShotDocument } from "../../../api/types";
import { worthOf } from "./useChoicesOf";

const VERDICTS = ["", "right choice", "wrong choice", "either will do", "not sure"] as const;

interface FeltDocument {
  pot?: number | null;
  run_out?: number | null;
  verdict?: string;
  computed?: Record<string, unknown>;
}

interface Props {
  document: ShotDocument;
  played: Option | null;
  best: Option | undefined;
  onKeep: (felt: FeltDocument) => void;
}

export function Felt({ document, played, best, onKeep }: Props) {
  const felt = (document.felt ?? {}) as FeltDocument;
  const keep = (patch: FeltDocument) => {
    onKeep({ ...felt, ...patch, computed: computedOf(played, best) ?? felt.computed });
  };
  const computed = computedOf(played, best);
  const waits = felt.pot != null && !felt.computed && computed !== null;
  const onComputed = useEffectEvent(() => {
    onKeep({ ...felt, computed: computed ?? undefined });
  });
  useEffect(() => {
    if (waits) onComputed(); // felt before anything was computed
  }, [waits]);
  return (
    <fieldset className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[12px]" aria-label="Felt">
      <span className="caption">felt</span>
      <Percent
        name="pot"
        value={felt.pot}
        onKeep={(pot) => {
          keep({ pot });
        }}
      />
      <Percent
        name="run-out"
        value={felt.run_out}
        onKeep={(run_out) => {
          keep({ run_out });
        }}
      />
      <select
        aria-label="Verdict"
        className="select select-xs w-auto"
        value={felt.verdict ?? ""}
        onChange={(event) => {
          keep({ verdict: event.target.value });
        }}
      >
        {VERDICTS.map((one) => (
          <option key={one} value={one}>
            {one || "verdict"}
          </option>
        ))}
      </select>
    </fieldset>
  );
}

function computedOf(played: Option | null, best: Option | undefined): Record<string, unknown> | null {
  if (!best) return null;
  return {
    pot: played?.ball ? played.pot.p : null,
    run_out: played?.run ?? null,
    played: played ? worthOf(played)?.p : null,
    best: worthOf(best)?.p,
    best_is: best.ball ? `${best.kind} ${best.ball}` : best.intent,
    best_is_attack: best.ball !== null,
  };
}

function Percent({
  name,
  value,
  onKeep,
}: {
  name: string;
  value: number | null | undefined;
  onKeep: (share: number | null) => void;
}) {
  const shown = value == null ? "" : String(Math.round(100 * value));
  const [typed, setTyped] = useState({ over: shown, text: shown });
  const text = typed.over === shown ? typed.text : shown; // what is kept now stands over what was typed before
  const [wrong, setWrong] = useState(false);
  const setText = (next: string) => {
    setWrong(false);
    setTyped({ over: shown, text: next });
  };
  const done = () => {
    if (text === shown) return;
    const number = Number(text.replace(",", "."));
    if (text.trim() === "") onKeep(null);
    else if (number >= 0 && number <= 100) onKeep(number / 100);
    else setWrong(true);
  };
  return (
    <label className="flex items-center gap-1">
      {name}
      <input
        aria-label={`Felt ${name} in percent`}
        className="input input-xs w-14"
        aria-invalid={wrong}
        inputMode="decimal"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
        }}
        onBlur={done}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
        }}
      />
      %
      {wrong && (
        <span role="alert" className="text-error">
          0 to 100; not kept
        </span>
      )}
    </label>
  );
}
