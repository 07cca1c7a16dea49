/** What each player gained and lost, by decisions, pots, position and luck, as bars from a middle line. */
import { Fragment, useState } from "react";

import type { Game, Ledger } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { Chip } from "../../parts/Chips";
import { named } from "../bench/panels/Board";
import { ALL_PARTS, PARTS, PART_WORDS, PHASE_WORDS, half, inRacks, type Part } from "./model";

const SEATS = ["A", "B"] as const;

export function Sums({ game, ledger }: { game: Game; ledger: Ledger }) {
  const [phases, setPhases] = useState(false);
  const { unit, players = {}, errors = {} } = ledger;
  const { rack } = disciplineOf(game.header.discipline);
  const most = Math.max(
    0.1,
    ...SEATS.flatMap((seat) => ALL_PARTS.map((part) => Math.abs(players[seat]?.[part] ?? 0))),
  );
  return (
    <section aria-label="Sums">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-lg">What won and lost it</h2>
        <span className="caption">
          in {unit === "balls" ? "balls" : `${rack}s: 100 points of win chance are one`}
        </span>
        <span className="ml-auto">
          <Chip
            on={phases}
            onClick={() => {
              setPhases(!phases);
            }}
          >
            by phase and school
          </Chip>
        </span>
      </div>
      <div className="grid grid-cols-1 gap-x-8 gap-y-3 md:grid-cols-2">
        {SEATS.map((seat) => {
          const sums = players[seat];
          if (!sums) return null;
          return (
            <table key={seat} className="w-full" data-testid={`sums-${seat}`}>
              <caption className="text-left">
                <b dir="auto">{named(game, seat)}</b> <span className="caption">{sums.shots} entries</span>
              </caption>
              <tbody>
                {ALL_PARTS.filter((part) => isTold(part) || Math.abs(sums[part]) > 0.005).map((part) => (
                  <Fragment key={part}>
                    <Row
                      words={PART_WORDS[part]}
                      value={sums[part]}
                      error={isTold(part) ? half(errors[seat]?.[part]) : 0}
                      most={most}
                      unit={unit}
                    />
                  </Fragment>
                ))}
              </tbody>
            </table>
          );
        })}
      </div>
      {phases && <Phases game={game} ledger={ledger} />}
      {phases && <Schools game={game} ledger={ledger} />}
    </section>
  );
}

const isTold = (part: string): part is Part => (PARTS as readonly string[]).includes(part);

function Row(props: { words: string; value: number; error: number; most: number; unit: Ledger["unit"] }) {
  const { words, value, error, most, unit } = props;
  const share = (one: number) => 50 + 50 * Math.max(-1, Math.min(1, one / (1.3 * most)));
  const [from, to] = value < 0 ? [share(value), 50] : [50, share(value)];
  return (
    <tr className="border-t border-base-300">
      <th scope="row" className="py-0.5 pr-3 text-left font-normal whitespace-nowrap">
        {words}
      </th>
      <td className="w-full">
        <svg viewBox="0 0 100 12" preserveAspectRatio="none" className="block h-3.5 w-full" aria-hidden>
          <path d="M50 0V12" stroke="var(--color-base-300)" vectorEffect="non-scaling-stroke" />
          <rect
            x={from}
            y={2}
            width={Math.max(0, to - from)}
            height={8}
            fill={value < 0 ? "var(--color-primary)" : "var(--color-secondary)"}
          />
          {error > 0 && (
            <path
              d={`M${share(value - error)} 6H${share(value + error)}`}
              stroke="var(--color-base-content)"
              vectorEffect="non-scaling-stroke"
            />
          )}
        </svg>
      </td>
      <td className="py-0.5 pl-3 text-right whitespace-nowrap">
        <b>{inRacks(value, unit)}</b>
        {error > 0 && <span className="opacity-75"> ± {inRacks(error, unit).replace("+", "")}</span>}
      </td>
    </tr>
  );
}

function Phases({ game, ledger }: { game: Game; ledger: Ledger }) {
  return (
    <table className="mt-3 w-full" data-testid="phases">
      <thead>
        <tr className="caption text-left">
          <th scope="col">player, phase</th>
          <th scope="col" className="text-right">
            entries
          </th>
          {ALL_PARTS.map((part) => (
            <th key={part} scope="col" className="text-right">
              {PART_WORDS[part]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {SEATS.flatMap((seat) =>
          (ledger.phases?.[seat] ?? []).map((one) => (
            <tr key={`${seat} ${one.phase}`} className="border-t border-base-300">
              <th scope="row" className="py-0.5 text-left font-normal" dir="auto">
                {named(game, seat)}, {PHASE_WORDS[one.phase] ?? one.phase}
              </th>
              <td className="text-right">{one.shots}</td>
              {ALL_PARTS.map((part) => (
                <td key={part} className="text-right">
                  {inRacks(one[part], ledger.unit)}
                </td>
              ))}
            </tr>
          )),
        )}
      </tbody>
    </table>
  );
}

/** The decisions as each school of play likes them: what one of them plays so is a matter of taste. */
function Schools({ game, ledger }: { game: Game; ledger: Ledger }) {
  return (
    <p className="mt-2 text-[12px]" data-testid="schools">
      Decisions by school:{" "}
      {SEATS.map((seat) => {
        const sums = Object.entries(ledger.schools?.[seat] ?? {});
        const told = sums.map(([school, cost]) => `${school} ${inRacks(cost, ledger.unit)}`).join(", ");
        return told ? `${named(game, seat)}: ${told}` : "";
      })
        .filter(Boolean)
        .join("; ")}
      . What a school plays so is a matter of taste, not an error.
    </p>
  );
}
