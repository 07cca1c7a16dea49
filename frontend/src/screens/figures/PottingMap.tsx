/** Made and tried by cut angle and distance. The figure is written in every field; the tint only repeats it. */
import type { Figures } from "../../api/types";
import { percent, rateWords } from "../../words";

type Cell = Figures["map"][number];

export function PottingMap({
  cells,
  onPick,
}: {
  cells: Cell[];
  onPick: (title: string, cell: Cell) => void;
}) {
  const cuts = [...new Map(cells.map((cell) => [cell.cut[0], cell.cut])).values()];
  const distances = [...new Map(cells.map((cell) => [cell.distance[0], cell.distance])).values()];
  const band = ([low, high]: Cell["distance"]) => (high === null ? `over ${low} m` : `${low} – ${high} m`);
  return (
    <section aria-label="Potting by cut angle and distance">
      <h2 className="mb-1 text-lg">Potting by cut angle and distance</h2>
      <table className="w-full border-collapse text-center" data-testid="map">
        <thead>
          <tr>
            <th className="caption text-left font-normal">cut, both runs together</th>
            {distances.map((one) => (
              <th key={one[0]} scope="col" className="px-1 pb-1 text-[11px] font-normal opacity-75">
                {band(one)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {cuts.map((cut) => (
            <tr key={cut[0]}>
              <th scope="row" className="pr-2 text-left text-[11px] font-normal whitespace-nowrap opacity-75">
                {cut[0]}° – {cut[1]}°
              </th>
              {distances.map((distance) => {
                const cell = cells.find((one) => one.cut[0] === cut[0] && one.distance[0] === distance[0]);
                return (
                  <td key={distance[0]} className="border border-base-300 p-0">
                    {cell && (
                      <Field
                        cell={cell}
                        title={`${cut[0]}° – ${cut[1]}°, ${band(distance)}`}
                        onPick={onPick}
                      />
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Field({
  cell,
  title,
  onPick,
}: {
  cell: Cell;
  title: string;
  onPick: (title: string, cell: Cell) => void;
}) {
  const { p, low, high, n } = cell.rate;
  if (p === null)
    return (
      <span className="block py-3">
        <span className="sr-only">{title}: no tries</span>
        <span aria-hidden>·</span>
      </span>
    );
  return (
    <button
      className="block min-h-14 w-full py-1 cursor-pointer hover:outline hover:outline-primary"
      onClick={() => {
        onPick(title, cell);
      }}
      style={{
        background: `color-mix(in oklab, var(--color-secondary) ${Math.round(p * 34)}%, transparent)`,
      }}
    >
      <span className="sr-only">
        {title}: {rateWords(cell.rate)}
      </span>
      <span aria-hidden>
        <b>{percent(p)}</b> <span className="inline-block text-[11px] whitespace-nowrap">n {n}</span>
      </span>
      <svg viewBox="0 0 100 6" preserveAspectRatio="none" className="mx-auto mt-0.5 h-1.5 w-4/5" aria-hidden>
        <path d="M0 3H100" stroke="var(--color-base-300)" strokeWidth={1} />
        <path d={`M${low * 100} 3H${high * 100}`} stroke="var(--color-base-content)" strokeWidth={2} />
        <path d={`M${p * 100} 0V6`} stroke="var(--color-primary)" strokeWidth={2.5} />
      </svg>
      <span className="text-[10px]" aria-hidden>
        {Math.round(low * 100)} to {Math.round(high * 100)}
      </span>
    </button>
  );
}
