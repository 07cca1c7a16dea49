/** What was meant and what happened. Every chip has a key or can be reached with Tab; none needs the mouse. */
import type { Game, ShotDocument } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { Chip, Choice, Line } from "../../parts/Chips";
import { INTENTS, KINDS, POCKETS, RESULTS, SOURCES, STROKES } from "../../words";
import { Answers, EndOfRack } from "./Answers";
import { Fell } from "./Balls";
import { BreakRecord } from "./BreakRecord";
import { Fouls } from "./Fouls";
import { Players } from "./Players";
import { Causes, Note } from "./Remarks";
import type { Actions } from "./actions";
import { callSafety, pushOut } from "./entry";
import { allowedNow, named } from "./says";
import { open } from "./state";
import type { Workbench } from "./useWorkbench";

type Set = (patch: Partial<ShotDocument>, label: string) => void;

export function EntryPanel({ bench, actions }: { bench: Workbench; actions: Actions }) {
  const { game, entry } = bench;
  const { document, shot } = entry;
  const set: Set = (patch, label) => {
    actions.edit({ ...document, ...patch }, label);
  };
  const names = game.header.players as Record<string, { name?: string }> | undefined;
  return (
    <section aria-label="Entry" className="sheet min-w-0 space-y-2 p-3" data-testid="entry">
      <div className="flex flex-wrap items-center gap-1">
        <h2 className="mr-2 text-[15px]">{shot ? "Logged shot" : "Next shot"}</h2>
        <Players game={game} entry={entry} onChange={set} />
        <span className="ml-auto flex flex-wrap items-center gap-1">
          <EndOfRack game={game} entry={entry} onEnd={actions.endRack} />
          {shot && (
            <>
              <button
                className="btn btn-ghost btn-xs"
                onClick={() => {
                  open("overrule");
                }}
              >
                Overrule
              </button>
              <button className="btn btn-ghost btn-xs" onClick={actions.remove}>
                Remove
              </button>
            </>
          )}
          {!shot && (
            <button className="btn btn-primary btn-xs" onClick={actions.logEntry} data-testid="log">
              Log <span className="key">Enter</span>
            </button>
          )}
        </span>
      </div>
      {shot?.ruling && (
        <p className="opacity-80" data-testid="ruling">
          {named(shot.ruling.why, names)}.{spoken("Foul", shot.ruling.fouls)}
          {spoken("Seen in review", shot.ruling.seen_fouls)}
        </p>
      )}
      {!shot && !game.winner && (
        <p className="opacity-80" data-testid="allowed">
          {named(allowedNow(entry, game), names)}
        </p>
      )}
      <Answers
        game={game}
        entry={entry}
        onChoice={(declared, more) => {
          actions.log({ player: document.player, declared, ...more });
        }}
        onChange={set}
      />
      <div className="grid gap-x-6 gap-y-2 xl:grid-cols-[7fr_5fr]">
        <div className="space-y-2">
          <Meant bench={bench} actions={actions} />
          <Kind game={game} bench={bench} set={set} />
          <Line name="Result">
            {RESULTS.map((result) => (
              <Chip
                key={result.id}
                on={document.result === result.id}
                hint={result.key}
                onClick={() => {
                  actions.result(result.id);
                }}
              >
                <span aria-hidden>{result.sign}</span> {result.words}
              </Chip>
            ))}
          </Line>
          <Fouls game={game} entry={entry} onScratch={actions.scratch} onChange={set} />
          <BreakRecord
            discipline={game.header.discipline}
            document={document}
            onChange={(break_record) => {
              set({ break_record }, "break record");
            }}
          />
        </div>
        <div className="space-y-2">
          <Fell
            game={game}
            entry={entry}
            onChange={(patch) => {
              set(patch, "balls that fell");
            }}
          />
          <Stroke document={document} set={set} />
          <Causes
            chosen={document.causes ?? []}
            onChange={(causes) => {
              set({ causes }, "causes");
            }}
          />
          <Note
            key={shot?.id ?? "new"}
            note={document.note ?? ""}
            onDone={(note) => {
              if (note !== (document.note ?? "")) set({ note }, "note");
            }}
          />
        </div>
      </div>
    </section>
  );
}

const spoken = (what: string, fouls: string[]) =>
  fouls.length ? ` ${what}: ${fouls.join(", ").replaceAll("-", " ")}.` : "";

/** The ball and the pocket, each pocket by the name that this game has for it. */
function Meant({ bench: { game, target }, actions }: { bench: Workbench; actions: Actions }) {
  const { pockets } = disciplineOf(game.header.discipline);
  return (
    <Line name="Meant">
      <span className="chip" data-testid="target-ball">
        {target
          ? /^\d+$/.test(target.ball)
            ? `${target.ball} ball`
            : target.ball.replace("-", " ")
          : "no ball"}
      </span>
      {POCKETS.map((pocket) => (
        <Chip
          key={pocket.name}
          on={target?.pocket === pocket.name}
          faint={target?.offered}
          hint={pocket.key}
          onClick={() => {
            actions.choosePocket(pocket.name);
          }}
        >
          {pockets[pocket.name]}
        </Chip>
      ))}
    </Line>
  );
}

const LEFT_OUT = ["experiment", "demonstration"] as const;

/** How it was struck and why, whose word that is, and what the rules want spoken. */
function Kind({ game, bench, set }: { game: Game; bench: Workbench; set: Set }) {
  const { document, up } = bench.entry;
  const choices = up?.choices ?? [];
  const flags = document.flags ?? [];
  const calls = game.rules["call"] === true;
  return (
    <Line name="Kind">
      <Choice
        label="Kind"
        value={document.kind ?? ""}
        options={document.kind === "break" ? ["break", ...KINDS] : KINDS}
        onChange={(kind) => {
          if (kind) set({ kind }, "kind");
        }}
      />
      <Choice
        label="Intent"
        value={document.intent ?? ""}
        options={["", ...INTENTS, ...(document.declared === "push-out" ? (["push-out"] as const) : [])]}
        onChange={(intent) => {
          set({ intent: intent || null }, "intent");
        }}
      />
      <Choice
        label="Whose word"
        value={document.intent_source ?? "unknown"}
        options={SOURCES}
        onChange={(source) => {
          set({ intent_source: source }, "source of the intent");
        }}
      />
      {choices.includes("push-out") && (
        <Chip
          on={document.declared === "push-out"}
          hint="x"
          onClick={() => {
            set(pushOut(document), "push-out");
          }}
        >
          push-out
        </Chip>
      )}
      {calls && document.kind !== "break" && (
        <Chip
          on={document.declared === "safety"}
          hint={choices.includes("push-out") ? undefined : "x"}
          onClick={() => {
            set(callSafety(document), "safety called");
          }}
        >
          safety called
        </Chip>
      )}
      <Chip
        on={document.also?.includes("break-out")}
        onClick={() => {
          const others = (document.also ?? []).filter((one) => one !== "break-out");
          const now = document.also?.includes("break-out");
          set({ also: now ? others : [...others, "break-out"] }, "opens balls");
        }}
      >
        opens balls
      </Chip>
      <Chip
        on={document.seen === false}
        onClick={() => {
          set({ seen: document.seen === false }, "seen");
        }}
      >
        not seen
      </Chip>
      {LEFT_OUT.map((flag) => (
        <Chip
          key={flag}
          on={flags.includes(flag)}
          onClick={() => {
            const others = flags.filter((one) => one !== flag);
            set({ flags: flags.includes(flag) ? others : [...others, flag] }, flag);
          }}
        >
          {flag}
        </Chip>
      ))}
    </Line>
  );
}

function Stroke({ document, set }: { document: ShotDocument; set: Set }) {
  const words = document.stroke?.words ?? [];
  return (
    <Line name="Stroke">
      {STROKES.flatMap((group) =>
        group.map((word) => (
          <Chip
            key={word}
            on={words.includes(word)}
            onClick={() => {
              const others = words.filter((one) => !group.some((word) => word === one));
              const chosen = words.includes(word) ? others : [...others, word];
              set({ stroke: { ...document.stroke, words: chosen } }, "stroke");
            }}
          >
            {word}
          </Chip>
        )),
      )}
    </Line>
  );
}
