/** A run at the table: why it ended is said first, then one tap on how many balls were made logs it. */
import { useState } from "react";

import { WHY, type Why } from "../../api/practice";

interface Props {
  /** How many there are; null: as many as come. */
  balls: number | null;
  ready: boolean;
  onRun: (balls: number, why: Why | null) => void;
}

export function RunPad({ balls, ready, onRun }: Props) {
  const [why, setWhy] = useState<Why>("missed");
  const [typed, setTyped] = useState("");
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap gap-2" role="group" aria-label="It ended by">
        {WHY.map((one) => (
          <button
            key={one}
            className="chip min-h-10 grow whitespace-nowrap"
            aria-pressed={why === one}
            onClick={() => {
              setWhy(one);
            }}
          >
            {one}
          </button>
        ))}
      </div>
      {balls !== null && balls <= 15 ? (
        <div className="grid grid-cols-4 gap-2" role="group" aria-label="Balls made">
          {Array.from({ length: balls + 1 }, (_, made) => (
            <button
              key={made}
              className={`btn h-14 text-lg ${made === balls ? "btn-primary" : ""}`}
              disabled={!ready}
              onClick={() => {
                onRun(made, made === balls ? null : why);
              }}
            >
              {made === balls ? "all" : made}
            </button>
          ))}
        </div>
      ) : (
        <form
          className="flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            onRun(Number(typed), balls !== null && Number(typed) === balls ? null : why);
            setTyped("");
          }}
        >
          <input
            aria-label="Balls made"
            type="number"
            inputMode="numeric"
            min={0}
            max={balls ?? 1000}
            required
            className="input h-14 flex-1 text-lg"
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value);
            }}
          />
          <button className="btn btn-primary h-14 text-lg" disabled={!ready}>
            log the run
          </button>
        </form>
      )}
    </div>
  );
}
