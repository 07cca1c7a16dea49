/** The entry: one sentence of what happened, what of it is open, and the rest folded behind one key each. */
import { Fragment, memo } from "react";

import type { Game } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import type { Actions } from "../actions";
import { asksOf, type Ask } from "../model/asked";
import type { Entry, Target } from "../model/entry";
import { allowedNow, named } from "../model/says";
import { sentenceOf, type Word } from "../model/sentence";
import { open, useBench } from "../model/state";
import { FoldedGroups } from "./FoldedGroups";

interface Props {
  game: Game;
  entry: Entry;
  target: Target | null;
  why: string | null;
  differs: string[];
  actions: Actions;
}

export const EntryPanel = memo(function EntryPanel({ game, entry, target, why, differs, actions }: Props) {
  const asked = useBench((state) => state.asked);
  const inserting = useBench((state) => state.insert !== null);
  const { shot, found } = entry;
  const title = found ? "Found shot" : shot ? "Logged shot" : inserting ? "Forgotten shot" : "Next shot";
  const asks = asksOf(game, entry, target, asked, actions);
  return (
    <section aria-label="Entry" className="sheet min-w-0 space-y-2 p-3" data-testid="entry">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="caption">{title}</h2>
        <Sentence words={sentenceOf(game, entry, target)} />
        <span className="ml-auto flex flex-wrap items-center gap-1">
          {!shot && (
            <button
              className="btn btn-primary btn-xs"
              onClick={found ? actions.takeFound : actions.logEntry}
              data-testid="log"
            >
              {found ? "Agree" : "Log"} <span className="key">Enter</span>
            </button>
          )}
        </span>
      </div>
      <Ruling game={game} entry={entry} why={why} differs={differs} />
      {asks.length > 0 && <Asks asks={asks} />}
      <FoldedGroups game={game} entry={entry} actions={actions} />
    </section>
  );
});

/** Each word that can be put right is a button; what nobody confirmed is dotted, what is open asks. */
function Sentence({ words }: { words: Word[] }) {
  return (
    <p className="text-[16px] leading-snug" data-testid="sentence">
      {words.map((word, index) => (
        <Fragment key={index}>
          {index > 0 && !/^[,;]/.test(word.text) && " "}
          <OneWord word={word} />
        </Fragment>
      ))}
    </p>
  );
}

function OneWord({ word }: { word: Word }) {
  const { text, asks, inferred, open: unsure } = word;
  const look = unsure
    ? "text-primary underline decoration-wavy"
    : inferred
      ? "underline decoration-dotted"
      : "";
  if (!asks) return <span className={`font-serif underline-offset-4 ${look}`}>{text}</span>;
  return (
    <button
      type="button"
      data-word={asks}
      title={inferred ? "as it looks; nobody has confirmed it" : undefined}
      className={`inline cursor-pointer font-serif underline-offset-4 hover:underline ${look}`}
      onClick={() => {
        useBench.setState({ asked: asks });
      }}
    >
      {text}
    </button>
  );
}

/** What the referee makes of it, what the rules allow next, and where the recording says otherwise. */
function Ruling({ game, entry, why, differs }: Pick<Props, "game" | "entry" | "why" | "differs">) {
  const { shot, found } = entry;
  const names = game.header.players as Record<string, { name?: string }> | undefined;
  const { rack } = disciplineOf(game.header.discipline);
  return (
    <>
      {shot && (
        <p className="opacity-80" data-testid="ruling">
          {shot.ruling &&
            `${named(shot.ruling.why, names)}.${spoken("Foul", shot.ruling.fouls)}${spoken("Seen in review", shot.ruling.seen_fouls)} `}
          <button
            className="cursor-pointer underline decoration-dotted hover:decoration-solid"
            onClick={() => {
              open("overrule");
            }}
          >
            overrule
          </button>
        </p>
      )}
      {found && why && <p className="opacity-80">{named(why, names)}.</p>}
      {!shot && !found && !game.winner && (
        <p className="opacity-80" data-testid="allowed">
          {named(allowedNow(entry, game), names)}
        </p>
      )}
      {game.winner && !shot && !found && <p className="opacity-80">The match is over; no {rack} is open.</p>}
      {differs.length > 0 && (
        <p role="alert" className="text-warning" data-testid="differs">
          The recording, as it is read now, says otherwise of{" "}
          {differs.join(" and ").replace("potted", "what fell")}: what you confirmed stands.
        </p>
      )}
    </>
  );
}

const spoken = (what: string, fouls: string[]) =>
  fouls.length ? ` ${what}: ${fouls.join(", ").replaceAll("-", " ")}.` : "";

function Asks({ asks }: { asks: Ask[] }) {
  return (
    <div role="group" aria-label="Open" className="flex flex-wrap gap-1" data-testid="asks">
      {asks.map((ask) => (
        <button key={ask.id} type="button" className="chip" aria-pressed={ask.on ?? false} onClick={ask.run}>
          {ask.words}{" "}
          {ask.key && (
            <span className="key" aria-hidden>
              {/[A-Z]/.test(ask.key) ? `⇧${ask.key}` : ask.key}
            </span>
          )}
        </button>
      ))}
    </div>
  );
}
