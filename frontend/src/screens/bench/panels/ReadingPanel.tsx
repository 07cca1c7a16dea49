/** What the plan says about the shot: angle, fraction, distances, pocket, lines, what is in the way. */
import type { Gap, Game, MeasuredDrawing, MeasuredShot, PositionError, Reading } from "../../../api/types";
import { UNITS, lengthIn, useSettings } from "../../../settings";
import { ballName } from "../../../table/balls";
import type { Drawing } from "../../../table/ink";
import { GRADES, percent, pocketWords } from "../../../words";
import { InkPanel, Verdict } from "./InkPanel";

interface Props {
  game: Game;
  reading: Reading | undefined;
  shot: MeasuredShot | undefined;
  offered: boolean;
  error: PositionError | null;
  others: Record<string, PositionError>;
  problem: unknown;
  drawings: Drawing[];
  measured: MeasuredDrawing[] | undefined;
}

export function ReadingPanel({
  game,
  reading,
  shot,
  offered,
  error,
  others,
  problem,
  drawings,
  measured,
}: Props) {
  const unit = useSettings((state) => state.unit);
  const length = (metres: number) => lengthIn(metres, unit, game.table);
  const spread = reading?.spread;
  return (
    <section aria-label="Reading" className="area-side reading sheet" data-testid="reading" tabIndex={0}>
      <div className="flex items-baseline gap-2">
        <h2 className="text-[15px]">
          {shot ? `${ballName(shot.ball)} to ${pocketWords(shot.pocket, game.header.discipline)}` : "Reading"}
        </h2>
        {offered && shot && <span className="caption">offered</span>}
        <select
          className="ml-auto bg-transparent text-[11px]"
          aria-label="Unit of lengths"
          value={unit}
          onChange={(event) => {
            useSettings.setState({ unit: event.target.value as typeof unit });
          }}
        >
          {UNITS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </div>
      {problem instanceof Error && (
        <p role="alert" className="text-error">
          {problem.message}
        </p>
      )}
      {!shot && !problem && (
        <p className="opacity-75">Place the cue ball and the balls that matter; the reading follows.</p>
      )}
      {shot && shot.cut_angle_deg === null && <p>From here no cut sends it there.</p>}
      {shot && shot.cut_angle_deg !== null && (
        <div className="flex flex-wrap items-start gap-x-3">
          <Fraction fraction={shot.fraction ?? 0} side={shot.cut_side} />
          <dl className="measures">
            <Row
              name="Cut"
              value={`${shot.cut_angle_deg.toFixed(1)}°`}
              more={spread?.cut_angle_deg != null ? `± ${spread.cut_angle_deg.toFixed(1)}°` : ""}
              after={shot.cut_side ? `to the ${shot.cut_side}` : "straight"}
            />
            <Row name="Fraction" value={`${(shot.fraction ?? 0).toFixed(2)} full`} />
            <Row
              name="Contact"
              value={length(shot.cue_distance ?? 0)}
              more={spread?.cue_distance != null ? `± ${length(spread.cue_distance)}` : ""}
            />
            <Row
              name="Pocket"
              value={length(shot.pocket_distance)}
              more={spread ? `± ${length(spread.pocket_distance)}` : ""}
            />
            <Row
              name="Mouth"
              value={MOUTH[shot.openness] ?? shot.openness}
              more={openness(shot, spread?.open)}
            />
            <Row
              name="Aim"
              value={shot.tolerance_deg != null ? `± ${shot.tolerance_deg.toFixed(2)}°` : "–"}
              after="still pots"
            />
          </dl>
        </div>
      )}
      {error && <ErrorRows title="Position error" error={error} length={length} />}
      {Object.entries(others).map(([ball, one]) => (
        <ErrorRows key={ball} title={`Error of the ${ballName(ball)}`} error={one} length={length} />
      ))}
      {shot && (
        <ul className="space-y-0.5">
          {shot.blocked_by.includes("jaw") && <li className="text-error">The jaw is in the way.</li>}
          <Beside way="cue ball" gaps={spread?.beside_cue ?? []} length={length} />
          <Beside way={ballName(shot.ball)} gaps={spread?.beside_object ?? []} length={length} />
          {shot.scratch.stun && (
            <li className="text-warning">
              With stun it scratches in the {pocketWords(shot.scratch.stun, game.header.discipline)}.
            </li>
          )}
          {shot.scratch.roll && (
            <li className="text-warning">
              Rolling it scratches in the {pocketWords(shot.scratch.roll, game.header.discipline)}.
            </li>
          )}
          {reading &&
            reading.visible[shot.ball] !== undefined &&
            Math.min(reading.visible[shot.ball] ?? 1, spread?.visible?.[0] ?? 1) < 0.995 && (
              <li>
                Seen from the cue ball: {percent(reading.visible[shot.ball] ?? 0)}{" "}
                {spread?.visible && <span className="opacity-70">({between(spread.visible)})</span>}
              </li>
            )}
        </ul>
      )}
      <InkPanel game={game} drawings={drawings} measured={measured} />
      {reading && <ProblemBalls reading={reading} discipline={game.header.discipline} />}
    </section>
  );
}

const MOUTH: Record<string, string> = { full: "all of it", part: "part of it", closed: "closed" };
const CLEAR = 0.03; // m: a ball that is passed by more is not told

/** "32 to 61 %": where places as well known as these put it. */
const between = ([low, high]: [number, number]) =>
  Math.round(100 * low) === Math.round(100 * high)
    ? percent(high)
    : `${String(Math.round(100 * low))} to ${percent(high)}`;

const openness = (shot: MeasuredShot, spread: [number, number] | undefined) =>
  spread && spread[0] < 0.995 && spread[1] > 0.005
    ? `${percent(shot.open)} (${between(spread)})`
    : shot.openness === "part"
      ? percent(shot.open)
      : "";

/** What stands beside the way of one of the two balls, where it matters. */
function Beside({ way, gaps, length }: { way: string; gaps: Gap[]; length: (metres: number) => string }) {
  const near = gaps.filter((gap) => gap.verdict !== "passes" || gap.gap < CLEAR);
  if (!near.length) return null;
  return (
    <li>
      <span className="opacity-70">Way of the {way}:</span>
      {near.slice(0, SHOWN).map((gap) => (
        <div key={gap.what} className="pl-2">
          <Verdict gap={gap} what={`the ${ballName(gap.what)}`} length={length} />
        </div>
      ))}
    </li>
  );
}

const SHOWN = 4; // problem balls told one by one; of a pack it is enough to know how many there are

/** The balls that go nowhere, or only by one way. */
function ProblemBalls({ reading, discipline }: { reading: Reading; discipline: string }) {
  const { problem_balls: problems } = reading;
  const told = problems.slice(0, problems.length > SHOWN + 1 ? SHOWN : problems.length);
  if (!told.length) return null;
  return (
    <ul className="opacity-80">
      {told.map((one) => (
        <li key={one.ball}>
          {ballName(one.ball)}: {withPocketNames(one.why, discipline)}
        </li>
      ))}
      {problems.length > told.length && <li>and {problems.length - told.length} more with no easy way</li>}
    </ul>
  );
}

/** A sentence of the server with the pockets and balls as this game calls them. */
function withPocketNames(why: string, discipline: string): string {
  const named = why.replace(/\b(?:head|side|foot)-(?:left|right)\b/g, (pocket) =>
    pocketWords(pocket, discipline),
  );
  const reds = named.match(/\bred-\d+\b/g)?.length ?? 0;
  if (reds <= 2) return named.replaceAll("-", " ");
  return named.replace(/\bred-\d+(?:, red-\d+)*/, `${reds} reds`).replaceAll(/, red-\d+/g, "");
}

function ErrorRows({
  title,
  error,
  length,
}: {
  title: string;
  error: PositionError;
  length: (metres: number) => string;
}) {
  const along = `${length(Math.abs(error.along))} ${error.along >= 0 ? "long" : "short"}`;
  const across = `${length(Math.abs(error.across))} ${error.across >= 0 ? "left" : "right"}`;
  return (
    <div className="block" data-testid="position-error">
      <span className="caption">{title}</span>
      {error.distance === 0 ? (
        <p>
          In the zone{error.grade ? ` (${GRADES[error.grade] ?? error.grade})` : ""}, ±{" "}
          {length(error.plus_minus)}
        </p>
      ) : (
        <p>
          <b className="text-primary">{length(error.distance)}</b> ± {length(error.plus_minus)}: {along},{" "}
          {across}
          {error.assumed && <span className="opacity-75"> (direction assumed)</span>}
        </p>
      )}
      {error.side && (
        <p>
          {error.side === "straight"
            ? "Straight on the next ball"
            : `${error.side === "right" ? "Right" : "Wrong"} side of the next ball's line`}
        </p>
      )}
    </div>
  );
}

function Row({ name, value, more, after }: { name: string; value: string; more?: string; after?: string }) {
  return (
    <>
      <dt className="opacity-70">{name}</dt>
      <dd>
        {value} {more && <span className="opacity-70">{more}</span>}{" "}
        {after && <span className="opacity-70">{after}</span>}
      </dd>
    </>
  );
}

/** The two balls at contact, as the player sees them. */
function Fraction({ fraction, side }: { fraction: number; side: string | null }) {
  const offset = (1 - fraction) * 40 * (side === "left" ? 1 : -1);
  return (
    <svg
      viewBox="-66 -30 132 60"
      className="h-11 w-[84px] shrink-0"
      role="img"
      aria-label={`${fraction.toFixed(2)} full`}
    >
      <g fill="none" stroke="var(--color-base-content)">
        <circle cx={-offset / 2} r={20} fill="var(--color-base-300)" />
        <circle cx={offset / 2} r={20} strokeDasharray="3 2" stroke="var(--color-primary)" />
        <path
          d={`M${-offset / 2} 24v5M${offset / 2} 24v5M${-offset / 2} 27H${offset / 2}`}
          strokeWidth={0.8}
        />
      </g>
    </svg>
  );
}
