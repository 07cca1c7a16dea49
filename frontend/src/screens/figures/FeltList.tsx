/** What was felt beside what was computed, shot by shot: where the two disagree most comes first. */
import { Link } from "react-router";

import { useFelt } from "../../api/choices";
import { More } from "../../parts/More";

interface Felt {
  pot?: number | null;
  run_out?: number | null;
  verdict?: string;
  computed?: {
    pot?: number | null;
    run_out?: number | null;
    played?: number | null;
    best?: number | null;
    best_is?: string;
  };
}

export function FeltList() {
  const { shots: lines, n, more } = useFelt();
  if (lines.length === 0) return null;
  return (
    <section aria-label="Felt and computed" data-testid="felt-list">
      <h2 className="mb-1 text-lg">Felt and computed</h2>
      <div className="overflow-x-auto">
        <table className="w-full text-left text-[12.5px]">
          <thead className="caption">
            <tr>
              <th>shot</th>
              <th>pot, felt / computed</th>
              <th>run-out, felt / computed</th>
              <th>verdict</th>
              <th>best by the numbers</th>
              <th>cost of the choice</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => {
              const felt = line.felt as Felt;
              return (
                <tr key={line.shot} className="border-t border-base-300">
                  <td className="py-0.5">
                    <Link className="link" to={`/match/${line.game}?shot=${line.shot}`}>
                      {line.player ?? "?"} {line.ball ? `on the ${line.ball}` : ""}
                    </Link>{" "}
                    <span className="opacity-75">{line.title}</span>
                  </td>
                  <td>{pair(felt.pot, felt.computed?.pot)}</td>
                  <td>{pair(felt.run_out, felt.computed?.run_out)}</td>
                  <td>{felt.verdict ?? ""}</td>
                  <td>{felt.computed?.best_is ?? "not asked yet"}</td>
                  <td>{cost(felt)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <More shown={lines.length} n={n} more={more} />
    </section>
  );
}

const share = (one: number | null | undefined) => (one == null ? "–" : `${Math.round(100 * one)} %`);
const pair = (felt: number | null | undefined, computed: number | null | undefined) =>
  `${share(felt)} / ${share(computed)}`;

function cost({ computed }: Felt): string {
  if (computed?.best == null || computed.played == null) return "";
  return `${(100 * Math.max(0, computed.best - computed.played)).toFixed(1)} %`;
}
