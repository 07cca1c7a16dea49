/** One moment: the table with what was played and what was better, the numbers, and what a coach would call it. */
import { memo } from "react";
import { Link } from "react-router";

import type { Game, Ledger, LedgerChoice, LedgerEntry } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { Voice } from "../../parts/Voice";
import { TableDrawing } from "../../table/TableDrawing";
import { trade } from "../../trade";
import type { Shape } from "../../table/shapes";
import { percent } from "../../words";
import { named } from "../bench/panels/Board";
import { PARTS, PART_WORDS, amount, candidates, half, type Moment } from "./model";

interface Props {
  game: Game;
  unit: Ledger["unit"];
  moment: Moment;
  chosen: boolean;
  onChoose: () => void;
  onNod: (cause: string, began: number | null) => void;
  /** For a report or a film. */
  picked: boolean;
  onPick: () => void;
}

export const MomentCard = memo(function MomentCard(props: Props) {
  const { game, unit, moment, chosen, onChoose, onNod, picked, onPick } = props;
  const { entry, shot, rack, index } = moment;
  const { rack: rackWord } = disciplineOf(game.header.discipline);
  return (
    <article
      className={`flex flex-wrap gap-4 border-t border-base-300 py-3 ${chosen ? "bg-base-200" : ""}`}
      aria-current={chosen}
      data-moment={shot.id}
      onClick={(event) => {
        if (!(event.target as Element).closest("a, button")) onChoose(); // those lead elsewhere
      }}
    >
      <div className="w-full max-w-72 shrink-0">
        <Drawing game={game} moment={moment} />
      </div>
      <div className="min-w-64 flex-1 space-y-1">
        <h3 className="flex flex-wrap items-baseline gap-x-3 text-[15px]">
          <Link className="underline" to={`/match/${game.id}?shot=${shot.id}&from=verdict`}>
            {rackWord} {rack + 1}, shot {index + 1}
          </Link>
          <span dir="auto">{named(game, entry.player)}</span>
          <b data-testid="cost">
            {amount(-moment.cost, unit)}
            {moment.error > 0 && (
              <span className="font-normal opacity-75"> ± {amount(moment.error, unit).replace("+", "")}</span>
            )}
          </b>
          {picked && <span className="caption">picked</span>}
          {moment.turning && <span className="caption">turned the {rackWord}</span>}
        </h3>
        <Told label="played" line="ink" choice={entry.played} unit={unit} value={entry.chosen} />
        {entry.better && !asGood(entry) && (
          <Told label="better" line="accent" choice={entry.better} unit={unit} value={entry.before} />
        )}
        <p className="text-[12px]">
          {PARTS.filter((part) => entry[part] !== null)
            .map((part) => `${PART_WORDS[part]} ${amount(entry[part] ?? 0, unit)}`)
            .join(", ")}
          {entry.unsplit !== null &&
            `, ${PART_WORDS.unsplit} ${amount(entry.unsplit, unit)} (${SPLITS[entry.split]})`}
        </p>
        {entry.named.length > 0 && (
          <ul className="flex flex-wrap gap-x-4 gap-y-1 text-[12px]" aria-label="What it may be called">
            {entry.named.map((one) => (
              <li key={one.what}>{one.words}</li>
            ))}
          </ul>
        )}
        {chosen && (
          <p className="flex flex-wrap gap-1">
            {shot.before?.balls && (
              <a
                className="chip"
                href={`/api/games/${game.id}/shots/${shot.id}/card/pdf`}
                target="_blank"
                rel="noreferrer"
              >
                set-up card
              </a>
            )}
            {shot.before?.balls && <OtherTables game={game} shot={shot.id} />}
            {shot.document.called?.ball && shot.before?.balls.cue && (
              <Link className="chip" to={`/practice/new?game=${game.id}&shot=${shot.id}`}>
                make it an exercise
              </Link>
            )}
            <button className="chip" aria-pressed={picked} onClick={onPick}>
              {picked ? "picked for report and film" : "pick it for report and film"}
            </button>
            <Voice game={game.id} shot={shot.id} />
            {candidates(entry, shot).map((one) => (
              <button
                key={`${one.what} ${one.cause ?? ""}`}
                className="chip"
                onClick={() => {
                  onNod(one.cause ?? "", one.began);
                }}
              >
                log the cause: {one.cause}
              </button>
            ))}
            {(shot.document.causes ?? []).length > 0 && (
              <span className="caption">logged: {(shot.document.causes ?? []).join(", ")}</span>
            )}
          </p>
        )}
      </div>
    </article>
  );
});

/** The same card for another table that takes the same balls. */
function OtherTables({ game, shot }: { game: Game; shot: string }) {
  const own = game.table.name;
  const sort = own.split("-")[0] ?? own;
  return trade.tables
    .filter(([name]) => name !== own && name.startsWith(sort))
    .map(([name, words]) => (
      <a
        key={name}
        className="chip"
        href={`/api/games/${game.id}/shots/${shot}/card/pdf?table=${name}`}
        target="_blank"
        rel="noreferrer"
        aria-label={`set-up card for ${words}`}
      >
        card for {words}
      </a>
    ));
}

export const SPLITS: Record<string, string> = {
  full: "",
  "no-stroke": "the stroke is not logged",
  "no-intent": "what was meant is not logged",
  "no-layout": "the balls' places are not known",
  hole: "nobody saw it",
  rules: "the game went on by somebody's word",
};

function Told(props: {
  label: string;
  line: "ink" | "accent";
  choice: LedgerChoice | null;
  unit: Ledger["unit"];
  value: number | null;
}) {
  const { label, line, choice, unit, value } = props;
  if (!choice) return null;
  const dash = line === "ink" ? "7 4" : undefined;
  return (
    <p className="flex flex-wrap items-center gap-x-2">
      <svg width={26} height={8} aria-hidden>
        <path
          d="M1 4H25"
          stroke={line === "ink" ? "var(--color-base-content)" : "var(--color-primary)"}
          strokeWidth={2}
          strokeDasharray={dash}
        />
      </svg>
      <span className="w-12 opacity-75">{label}</span>
      <span className="font-medium">{choice.words.title}</span>
      <span className="opacity-75">{choice.words.stroke}</span>
      {choice.pot !== null && <span>pot {percent(choice.pot)}</span>}
      {value !== null && <span>worth {unit === "balls" ? `${value.toFixed(1)} balls` : percent(value)}</span>}
    </p>
  );
}

/** Nothing better is known: it is what was played, or what it is worth more is within its ±. */
const asGood = ({ decision, better, played, error }: LedgerEntry) =>
  decision === null
    ? better !== null &&
      played !== null &&
      better.words.title === played.words.title &&
      better.route === played.route
    : decision >= -half(error.decision);

function Drawing({ game, moment: { entry, shot } }: { game: Game; moment: Moment }) {
  const balls = shot.before?.balls;
  if (!balls) return <p className="caption">the balls’ places are not known</p>;
  const shapes: Shape[] = [
    ...way(entry.played, "route"),
    ...(asGood(entry) ? [] : way(entry.better, "error")),
  ];
  return (
    <TableDrawing
      table={game.table}
      balls={balls}
      shapes={shapes}
      label={`The table then; ${entry.better && !asGood(entry) ? `better was ${entry.better.words.title}` : ""}`}
    />
  );
}

const way = (choice: LedgerChoice | null, line: Shape["line"]): Shape[] =>
  choice && choice.path.length > 1 ? [{ line, points: choice.path }] : [];
