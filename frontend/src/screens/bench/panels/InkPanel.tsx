/** What was drawn by hand, measured: a line's length and angle, and the gaps beside a ball that runs along it. */
import type { Gap, Game, MeasuredDrawing } from "../../../api/types";
import { lengthIn, useSettings } from "../../../settings";
import type { Drawing } from "../../../table/ink";
import { ballName } from "../../../table/balls";
import { pocketWords } from "../../../words";

const SHOWN = 4; // drawings told one by one, the newest first
const NEAR = 0.12; // m: what stands further from the line than this is not told
const GAPS = 3;

interface Props {
  game: Game;
  drawings: Drawing[];
  measured: MeasuredDrawing[] | undefined;
}

export function InkPanel({ game, drawings, measured }: Props) {
  if (!drawings.length || measured?.length !== drawings.length) return null;
  const newest = measured.map((one, index) => ({ one, index })).reverse();
  return (
    <section aria-label="Drawn" className="block" data-testid="drawn-by-hand">
      <h3 className="caption">Drawn</h3>
      <ul className="space-y-1">
        {newest.slice(0, SHOWN).map(({ one, index }) => (
          <li key={index}>
            <Measured game={game} drawing={drawings[index]} measured={one} />
          </li>
        ))}
      </ul>
      {newest.length > SHOWN && <p className="opacity-75">and {newest.length - SHOWN} more</p>}
    </section>
  );
}

function Measured({
  game,
  drawing,
  measured,
}: {
  game: Game;
  drawing: Drawing | undefined;
  measured: MeasuredDrawing;
}) {
  const unit = useSettings((state) => state.unit);
  const length = (metres: number) => lengthIn(metres, unit, game.table);
  const { mover, gaps } = measured;
  const near = gaps.filter((gap) => gap.gap < NEAR).slice(0, GAPS);
  const who = mover ? `the ${ballName(mover)}` : "a ball";
  if (drawing?.kind === "circle")
    return (
      <p>
        circle, radius {length(measured.length ?? 0)}, {area(measured.area)}
      </p>
    );
  if (drawing?.kind === "area") return <p>area of {area(measured.area)}</p>;
  return (
    <>
      <p>
        {drawing?.kind ?? "line"}, <b>{length(measured.length ?? 0)}</b>,{" "}
        {(measured.angle_deg ?? 0).toFixed(1)}° to the long rail
      </p>
      <p className="opacity-75">{near.length ? `Along it ${who}:` : `Along it ${who} passes everything.`}</p>
      {near.map((gap) => (
        <p key={`${gap.what}${gap.gap.toFixed(4)}`} className="pl-2" data-gap={gap.what}>
          <Verdict gap={gap} what={named(gap.what, game.header.discipline)} length={length} />
        </p>
      ))}
    </>
  );
}

const SIGN = { passes: "○", touches: "✕", "cannot be told": "?" } as const;

/** "✕ touches the 7", "○ passes the 4 by 2.1 cm ± 1.4", "? the 3: 0.4 cm ± 1.9, cannot be told". */
export function Verdict({
  gap,
  what,
  length,
}: {
  gap: Gap;
  what: string;
  length: (metres: number) => string;
}) {
  const by = `${length(Math.abs(gap.gap))} ± ${length(gap.plus_minus)}`;
  const look = gap.verdict === "touches" ? "text-error" : gap.verdict === "passes" ? "" : "text-warning";
  return (
    <span className={look}>
      <span aria-hidden>{SIGN[gap.verdict]}</span> {gap.verdict === "passes" && `passes ${what} by ${by}`}
      {gap.verdict === "touches" && `touches ${what}: ${by} too near`}
      {gap.verdict === "cannot be told" && `${what}: ${gap.gap < 0 ? "−" : ""}${by}, cannot be told`}
    </span>
  );
}

function named(what: string, discipline: string): string {
  if (what.startsWith("jaw of ")) return `a jaw of ${pocketWords(what.slice(7), discipline)}`;
  return `the ${ballName(what)}`;
}

const area = (square: number | null) => `${((square ?? 0) * 1e4).toFixed(0)} cm²`;
