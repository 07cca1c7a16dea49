/** Banks, plants and cannons taught: the mirror's diamond and the one to play, gaps and off-lines, tangent lines. */

import { answered, api } from "../../api/client";
import type { BankAnswer, LinesAnswer, Place } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { ballName } from "../../table/balls";
import type { Shape } from "../../table/shapes";
import { ring } from "../../table/shapes";
import { percent, pocketWords } from "../../words";
import { placed, tableOf, type LabState, type Patch } from "./state";
import { useAsked } from "./useAsked";

interface Props {
  lab: LabState;
  change: (patch: Patch) => void;
  /** Lines over the table. */
  onDraw: (shapes: Shape[]) => void;
}

/** How many diamonds the aim moves with speed. */
export function BySpeed({ told }: { told: readonly (readonly [number, number])[] }) {
  if (told.length < 2) return null;
  return (
    <span className="block text-[12px] opacity-75">
      {told.map(([speed, diamond]) => `${diamond.toFixed(2)} at ${speed.toFixed(1)} m/s`).join(", ")}
    </span>
  );
}

export function Banks({ lab, ball, change, onDraw }: Props & { ball: string }) {
  const body = { ...placed(lab), ball };
  const query = useAsked("bank", body, () => answered<BankAnswer>(api.POST("/api/bank", { body })));
  if (query.error) return <Problem of={query.error} />;
  if (!query.data) return <p role="status">Looking …</p>;
  if (query.data.banks.length === 0) return <p>No bank of the {ballName(ball)} was found.</p>;
  return (
    <ol className="divide-y divide-base-300" aria-label={`Banks of the ${ballName(ball)}`}>
      {query.data.banks.map((bank) => (
        <li key={`${bank.pocket} ${bank.rail}`} data-testid="bank">
          <button
            className="w-full cursor-pointer py-1 text-left hover:bg-base-200"
            onClick={() => {
              const mouth = lab.drawn.pockets.find((one) => one.name === bank.pocket)?.mouth;
              const from = lab.balls[ball];
              if (from && mouth) onDraw([{ line: "ghost", points: [from, bank.mirror_aim, mouth] }]);
              change({
                at: null,
                pocket: null,
                aim: bank.corrected_aim,
                speed: bank.speed,
                side: 0,
                height: 0,
              });
            }}
          >
            <b>
              {pocketWords(bank.pocket)}, off {bank.rail}
            </b>{" "}
            <span className="caption">{bank.speed.toFixed(1)} m/s</span>
            <span className="block text-[12px]">
              mirror at diamond {bank.diamond.toFixed(2)}, the ball goes to{" "}
              {bank.corrected_diamond.toFixed(2)}; cut {degrees(bank.cut)}; made {percent(bank.pot.p ?? 0)}{" "}
              <span className="opacity-75">
                ({Math.round(100 * bank.pot.low)} to {Math.round(100 * bank.pot.high)}, n {bank.pot.n})
              </span>
            </span>
            <BySpeed told={bank.by_speed} />
          </button>
        </li>
      ))}
    </ol>
  );
}

const degrees = (radians: number) => `${Math.abs((radians * 180) / Math.PI).toFixed(0)}°`;
const centimetres = (metres: number) => `${Math.abs(100 * metres).toFixed(1)} cm`;

export function Lines({ lab, onDraw }: Omit<Props, "change">) {
  const body = tableOf(lab);
  const query = useAsked("lines", body, () => answered<LinesAnswer>(api.POST("/api/lines", { body })));
  if (query.error) return <Problem of={query.error} />;
  if (!query.data) return <p role="status">Looking …</p>;
  const { plants, cannons } = query.data;
  const { radius } = lab.drawn;
  const at = (ball: string): Place => lab.balls[ball] ?? [0, 0];
  const mouth = (pocket: string): Place =>
    lab.drawn.pockets.find((one) => one.name === pocket)?.mouth ?? [0, 0];
  const stands = (blocked: string[]) => (blocked.length ? `; the ${blocked.join(", ")} in the way` : "");
  return (
    <div data-testid="lines">
      <h3 className="caption">plants: first ball, second ball, pocket</h3>
      {plants.length === 0 && <p>None lies there.</p>}
      <ol>
        {plants.map((one) => (
          <li key={`${one.first} ${one.second} ${one.pocket}`}>
            <button
              className="w-full cursor-pointer py-0.5 text-left hover:bg-base-200"
              onClick={() => {
                onDraw([
                  { line: "ghost", points: ring(one.ghost, radius), closed: true },
                  { line: "aim", points: [at(one.first), one.ghost] },
                  { line: "ghost", points: [at(one.second), mouth(one.pocket)] },
                ]);
              }}
            >
              {one.first} – {one.second} {pocketWords(one.pocket)}{" "}
              <span className="text-[12px] opacity-80">
                {one.gap === 0
                  ? `touching, ${Math.abs(one.misses_by) < 0.02 ? "on" : `passes the mouth by ${centimetres(one.misses_by)}`}`
                  : `gap ${centimetres(one.gap)}, off line ${degrees(one.off)}, cut ${degrees(one.cut)}`}
                {one.cue_cut !== null && `, struck at ${degrees(one.cue_cut)}`}
                {stands(one.blocked)}
              </span>
            </button>
          </li>
        ))}
      </ol>
      <h3 className="caption mt-2">cannons with stun, by the tangent line</h3>
      {cannons.length === 0 && <p>None lies there.</p>}
      <ol>
        {cannons.map((one) => (
          <li key={`${one.first} ${one.second} ${one.side}`}>
            <button
              className="w-full cursor-pointer py-0.5 text-left hover:bg-base-200"
              onClick={() => {
                onDraw([
                  { line: "ghost", points: ring(one.ghost, radius), closed: true },
                  { line: "aim", points: [at("cue"), one.ghost] },
                  { line: "stun", points: [one.ghost, at(one.second)] },
                ]);
              }}
            >
              {one.first} onto {one.second}{" "}
              <span className="text-[12px] opacity-80">
                {percent(one.fullness)} full on its {one.side}
                {stands(one.blocked)}
              </span>
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}
