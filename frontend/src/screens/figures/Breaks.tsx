/** What breaks bring, sorted one way after another: every rate with its own sample. */
import type { Pick } from "../../api/queries";
import type { Figures, Mean, Rate } from "../../api/types";
import { percent } from "../../words";

interface Props {
  tables: Figures["breaks"];
  onPick: (pick: Pick) => void;
}

export function Breaks({ tables, onPick }: Props) {
  if (!tables.length) return null;
  return (
    <section aria-label="Breaks" data-testid="breaks">
      <h2 className="mb-1 text-lg">Breaks</h2>
      <div className="overflow-x-auto">
        <table className="w-full text-left">
          <thead className="caption">
            <tr>
              <th className="py-1 pr-3 font-normal">by</th>
              <th className="pr-3 font-normal">balls a break</th>
              <th className="pr-3 font-normal">dry</th>
              <th className="pr-3 font-normal">scratch or in-off</th>
              <th className="pr-3 font-normal">next ball seen</th>
              <th className="font-normal">won</th>
            </tr>
          </thead>
          {tables.map((table) => (
            <tbody key={table.by} className="border-t border-base-300">
              {table.families.map((family) => (
                <tr key={family.words} className="hover:bg-base-200">
                  <td className="py-0.5 pr-3">
                    <button
                      className="min-h-6 cursor-pointer text-left hover:underline"
                      onClick={() => {
                        onPick({ ...family, title: `breaks, ${table.by}: ${family.words}`, by: table.key });
                      }}
                    >
                      <span className="caption mr-1">{table.by}</span> {family.words.replaceAll("-", " ")}
                    </button>
                  </td>
                  <td className="pr-3">{meanWords(family.balls)}</td>
                  <td className="pr-3">{shortRate(family.dry)}</td>
                  <td className="pr-3">{shortRate(family.scratch)}</td>
                  <td className="pr-3">{shortRate(family.next_visible)}</td>
                  <td>{shortRate(family.won)}</td>
                </tr>
              ))}
            </tbody>
          ))}
        </table>
      </div>
    </section>
  );
}

function meanWords({ mean, low, high, n }: Mean): string {
  if (mean === null) return "–";
  const interval = low === null || high === null ? "" : `${Math.max(0, low).toFixed(1)}–${high.toFixed(1)}, `;
  return `${mean.toFixed(1)} (${interval}n ${n})`;
}

function shortRate({ p, low, high, n }: Rate): string {
  return p === null ? "–" : `${percent(p)} (${Math.round(100 * low)}–${Math.round(100 * high)}, n ${n})`;
}
