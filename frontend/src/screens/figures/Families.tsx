/** Rates of one kind under one another, each with its interval and its tries. */
import { RateBar } from "../../parts/RateBar";
import type { Figures } from "../../api/types";
import { percent, rateWords } from "../../words";

interface Props {
  title: string;
  families: Figures["by_pocket"];
  words: (name: string) => string;
  onPick: (name: string) => void;
}

export function Families({ title, families, words, onPick }: Props) {
  return (
    <section aria-label={title}>
      <h2 className="mb-1 text-lg">{title}</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {families.map(({ name, rate }) => (
          <li key={name}>
            <button
              className="grid w-full cursor-pointer grid-cols-[1fr_80px_98px] items-center gap-3 py-1 text-left hover:bg-base-200"
              onClick={() => {
                onPick(name);
              }}
            >
              <span className="sr-only">
                {words(name)}: {rateWords(rate)}
              </span>
              <span className="truncate" aria-hidden>
                {words(name)}
              </span>
              <span aria-hidden>
                <RateBar rate={rate} />
              </span>
              <span className="whitespace-nowrap" aria-hidden>
                <b>{percent(rate.p ?? 0)}</b> <span className="text-[11px] opacity-75">n {rate.n}</span>
              </span>
            </button>
          </li>
        ))}
        {families.length === 0 && <li className="py-1 opacity-70">no tries</li>}
      </ul>
    </section>
  );
}
