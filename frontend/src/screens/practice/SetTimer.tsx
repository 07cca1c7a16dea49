/** Sets and rest: how long one has practised, how many tries a set has, and the rest after it. */
import { useEffect, useState } from "react";

const SETS = [5, 10, 15, 20];
const RESTS = [0, 30, 60, 120]; // seconds

interface Props {
  tried: number;
  warming: boolean;
  onWarming: (warming: boolean) => void;
}

export function SetTimer({ tried, warming, onWarming }: Props) {
  const [size, setSize] = useState(10);
  const [rest, setRest] = useState(60);
  const [began, setBegan] = useState<number | null>(null);
  const [ended, setEnded] = useState<{ tried: number; at: number } | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (began === null) return;
    const clock = setInterval(() => {
      setNow(Date.now());
    }, 500);
    return () => {
      clearInterval(clock);
    };
  }, [began]);
  if (began !== null && tried > 0 && tried % size === 0 && ended?.tried !== tried)
    setEnded({ tried, at: now });
  const left = ended?.tried === tried ? Math.ceil(rest - (now - ended.at) / 1000) : 0;
  return (
    <details className="text-[13px]">
      <summary className="cursor-pointer">
        sets and rest
        {began !== null && `: ${clockWords((now - began) / 1000)}, set ${Math.floor(tried / size) + 1}`}
      </summary>
      <div className="mt-2 flex flex-wrap items-baseline gap-3">
        <label className="flex items-baseline gap-1">
          tries a set
          <Numbers label="Tries a set" values={SETS} value={size} onChange={setSize} />
        </label>
        <label className="flex items-baseline gap-1">
          rest
          <Numbers label="Seconds of rest" values={RESTS} value={rest} onChange={setRest} /> s
        </label>
        <button
          className="chip"
          aria-pressed={warming}
          onClick={() => {
            onWarming(!warming);
          }}
        >
          warming up: tries do not count
        </button>
        <button
          className="chip"
          onClick={() => {
            const at = Date.now();
            setNow(at);
            setBegan(began === null ? at : null);
            setEnded(null);
          }}
        >
          {began === null ? "start the clock" : "stop the clock"}
        </button>
      </div>
      {left > 0 && (
        <p role="status" className="mt-2 font-serif text-xl" data-testid="rest">
          Rest, {left} s. Loosen wrist and shoulder.
        </p>
      )}
    </details>
  );
}

const clockWords = (seconds: number) =>
  `${Math.floor(Math.max(0, seconds) / 60)}:${String(Math.floor(Math.max(0, seconds) % 60)).padStart(2, "0")}`;

interface NumbersProps {
  label: string;
  values: number[];
  value: number;
  onChange: (value: number) => void;
}

function Numbers({ label, values, value, onChange }: NumbersProps) {
  return (
    <select
      aria-label={label}
      className="select select-sm w-auto"
      value={value}
      onChange={(event) => {
        onChange(Number(event.target.value));
      }}
    >
      {values.map((one) => (
        <option key={one}>{one}</option>
      ))}
    </select>
  );
}
