/** One choice in the list: what, how often, what it is worth; the one that was played is marked. */
import type { Option } from "../../../api/types";
import { part } from "./words";

interface Props {
  option: Option;
  rank: number;
  chosen: boolean;
  played: boolean;
  added: boolean;
  /** Not to be told apart from the best of the list. */
  equal: boolean;
  /** What a run counts: points or balls, not the chance to finish. */
  points: boolean;
  /** Somebody plays after a miss. */
  against: boolean;
  /** Some of the list were played on, and the others drawn to what came out. */
  drawn: boolean;
  onChoose: () => void;
}

export function OptionRow({
  option,
  rank,
  chosen,
  played,
  added,
  equal,
  points,
  against,
  drawn,
  onChoose,
}: Props) {
  const { words } = option;
  const also = option.also.filter((word) => word !== "played" && word !== "added");
  return (
    <li data-testid="option">
      <button
        className={`grid w-full cursor-pointer grid-cols-[18px_1fr_auto] gap-x-2 px-1 py-1 text-left hover:bg-base-200 ${chosen ? "bg-base-200" : ""}`}
        aria-pressed={chosen}
        onClick={onChoose}
      >
        <span className="caption pt-0.5">{rank}</span>
        <span className="min-w-0">
          <b className="first-letter:uppercase">{words.title}</b>{" "}
          <span className="caption">{option.ball ? option.intent : ""}</span>
          {played && <span className="ml-1 border border-primary px-1 text-[11px]">played</span>}
          {added && !played && <span className="ml-1 border border-base-300 px-1 text-[11px]">added</span>}
          <span className="block text-[11.5px] opacity-80">
            {option.ball
              ? `pot ${part(option.pot)}, well placed ${part(option.position)}`
              : leavesWords(option)}
            {against && ` · leaves a pot ${part(option.opponent_next)}`}
          </span>
        </span>
        <span className="text-right">
          {equal && (
            <span title="not to be told apart from the best of these">
              <span aria-hidden>≈ </span>
              <span className="sr-only">as good: </span>
            </span>
          )}
          <b className="font-serif text-[16px]">{words.worth}</b>
          <span className="block text-[11px] opacity-75">{words.spread}</span>
        </span>
      </button>
      {chosen && (
        <div className="space-y-1 px-7 pb-2 text-[12.5px]">
          <p>{option.why}</p>
          <p className="opacity-80">
            {words.stroke}
            {also.length > 0 && `; also ${also.join(", ")}`}
            {option.run > 0.0005 &&
              (points
                ? `; scores ${option.run.toFixed(1)}`
                : `; runs out ${(100 * option.run).toFixed(1)} %`)}
            {option.foul.p !== null && `; foul ${part(option.foul)}`}
            {`; cue ball: ${option.route}`}
          </p>
          {option.variations.length > 0 && (
            <ul className="opacity-80" aria-label="Other strokes of this idea">
              {option.variations.map((one, index) => (
                <li key={index}>
                  also {one.words.stroke}: pot {part(one.pot)}, worth {one.words.worth}
                </li>
              ))}
            </ul>
          )}
          <p className="caption">
            {option.played > 0
              ? `from ${option.played} ${points ? "visits" : "racks"} played to their end, each stroke chosen anew`
              : `what follows is taken from maps${drawn ? ", drawn to what was played to the end" : ""}`}
          </p>
          {option.kind === "jump" && (
            <p className="opacity-80">
              Jumping can chip balls and eyes: mind people nearby; many rooms forbid it, house rules decide.
            </p>
          )}
        </div>
      )}
    </li>
  );
}

function leavesWords(option: Option): string {
  if (option.intent === "push-out") return "either player may take the shot";
  if (!option.leaves) return `foul ${part(option.foul)}`;
  return `hidden ${part(option.leaves.hidden)} · foul ${part(option.foul)}`;
}
