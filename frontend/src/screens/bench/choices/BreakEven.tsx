/** Attack against safety: over the pot's chance, and against each opponent. */
import { useChoices } from "../../../api/choices";
import type { ChoicesOf } from "./useChoicesOf";
import { part } from "./words";

const [WIDE, HIGH, EDGE] = [300, 130, 26];

export function BreakEven({ choices }: { choices: ChoicesOf }) {
  const body = choices.answer?.body;
  const curve = body?.curves?.over_pot;
  const list = choices.list;
  const attack = list?.best_attack != null ? list.options[list.best_attack] : undefined;
  const against = useChoices(
    choices.game,
    choices.body && { ...choices.body, kind: "against", added: null, settle: false },
  );
  if (!list) return <p className="opacity-75">Looking …</p>;
  const win = list.options.every((one) => one.win !== null);
  return (
    <section
      aria-label="Attack against safety"
      className="grid gap-4 md:grid-cols-2"
      data-testid="break-even"
    >
      <div>
        {curve && attack ? (
          <>
            <p>
              {list.break_even_pot !== null ? (
                <>
                  Attack is right from a pot of <b>{Math.round(100 * list.break_even_pot)} %</b> on; here the
                  pot is {part(attack.pot)} (n {attack.pot.n}).
                </>
              ) : (
                "One of the two is better whatever the pot's chance."
              )}
            </p>
            <Curves
              pots={curve.pots}
              attack={curve.attack}
              safety={curve.safety}
              pot={attack.pot.p ?? 0}
              even={list.break_even_pot}
            />
            {win && body?.curves?.ten_points_better != null && (
              <p>
                Ten points better at this pot: {(100 * body.curves.ten_points_better).toFixed(1)} % instead of{" "}
                {(100 * (attack.win?.p ?? 0)).toFixed(1)} %.
              </p>
            )}
            {body.curves?.match && (
              <p>
                For the match (to go: {body.curves.match.needs} against {body.curves.match.other_needs}; later
                racks even): attack {value(body.curves.match.attack, true)}, safety{" "}
                {value(body.curves.match.safety, true)}.
              </p>
            )}
          </>
        ) : (
          <p>{choices.running ? "Looking …" : "There is no attack and safety to compare here."}</p>
        )}
      </div>
      <div>
        <h2 className="caption">against each opponent</h2>
        <table className="text-left text-[12.5px]">
          <thead className="caption">
            <tr>
              <th className="pr-3">opponent</th>
              <th className="pr-3">attack</th>
              <th className="pr-3">safety</th>
              <th>attack from a pot of</th>
            </tr>
          </thead>
          <tbody>
            {(against.data?.body.against ?? []).map((one) => (
              <tr key={one.opponent}>
                <td className="pr-3">{one.opponent}</td>
                <td className="pr-3">{value(one.attack, win)}</td>
                <td className="pr-3">{value(one.safety, win)}</td>
                <td>{one.break_even === null ? "–" : `${Math.round(100 * one.break_even)} %`}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {against.data?.state === "running" && (
          <progress
            className="progress w-24"
            value={against.data.progress}
            max={1}
            aria-label="Opponents worked out"
          />
        )}
        <p className="caption">100 samples an option: good to a few points</p>
      </div>
    </section>
  );
}

const value = (one: number | null, win: boolean) =>
  one === null ? "–" : win ? `${(100 * one).toFixed(1)} %` : one.toFixed(1);

function Curves({
  pots,
  attack,
  safety,
  pot,
  even,
}: {
  pots: number[];
  attack: number[];
  safety: number[];
  pot: number;
  even: number | null;
}) {
  const all = [...attack, ...safety];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const x = (share: number) => EDGE + share * (WIDE - EDGE - 6);
  const y = (one: number) => 8 + (1 - (one - low) / Math.max(high - low, 1e-6)) * (HIGH - 30);
  const line = (values: number[]) =>
    values.map((one, i) => `${i ? "L" : "M"}${x(pots[i] ?? 0)} ${y(one)}`).join("");
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full max-w-md"
      role="img"
      aria-label="Values of attack and safety over the pot's chance"
    >
      <path
        d={`M${EDGE} 6V${HIGH - 20}H${WIDE - 6}`}
        fill="none"
        stroke="var(--color-base-content)"
        strokeWidth={0.8}
      />
      {[0, 0.25, 0.5, 0.75, 1].map((tick) => (
        <text
          key={tick}
          x={x(tick)}
          y={HIGH - 8}
          fontSize={9}
          textAnchor="middle"
          fill="var(--color-base-content)"
        >
          {100 * tick} %
        </text>
      ))}
      <path d={line(attack)} fill="none" stroke="var(--color-primary)" strokeWidth={1.8} />
      <path
        d={line(safety)}
        fill="none"
        stroke="var(--color-secondary)"
        strokeWidth={1.5}
        strokeDasharray="5 3"
      />
      <text
        x={WIDE - 8}
        y={y(attack.at(-1) ?? 0) + 11}
        fontSize={9.5}
        textAnchor="end"
        fill="var(--color-primary)"
      >
        attack
      </text>
      <text
        x={WIDE - 8}
        y={y(safety[0] ?? 0) - 4}
        fontSize={9.5}
        textAnchor="end"
        fill="var(--color-secondary)"
      >
        safety
      </text>
      {even !== null && (
        <path
          d={`M${x(even)} ${HIGH - 20}V${y(safety[0] ?? 0)}`}
          stroke="var(--color-base-content)"
          strokeDasharray="2 2"
          strokeWidth={0.8}
        />
      )}
      <path d={`M${x(pot) - 4} ${HIGH - 20}l4 -7l4 7z`} fill="var(--color-primary)">
        <title>the pot here</title>
      </path>
    </svg>
  );
}
