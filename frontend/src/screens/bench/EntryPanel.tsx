/** What was meant and what happened. Every chip has a key or can be reached with Tab; none needs the mouse. */
import { useEffect, useRef, useState, type ReactNode } from "react";

import type { Game, ShotDocument } from "../../api/types";
import { CAUSES, FOULS, INTENTS, KINDS, POCKETS, RESULTS, SOURCES, STROKES } from "../../words";
import { hasFoul, pushOut, withFoul, type Entry, type ResultId } from "./entry";

interface Props {
  game: Game;
  entry: Entry;
  target: { ball: string; pocket: string | null; offered: boolean } | null;
  onEdit: (document: ShotDocument, label: string) => void;
  onResult: (result: ResultId) => void;
  onScratch: () => void;
  onPocket: (pocket: string) => void;
  onChoice: (choice: string) => void;
  onLog: () => void;
  onRemove: () => void;
  onOverrule: () => void;
}

export function EntryPanel(props: Props) {
  const { game, entry, target, onEdit } = props;
  const { document, shot } = entry;
  const choices = shot ? [] : (entry.rack?.next_up?.choices ?? []);
  const answers = choices.filter((choice) => choice !== "push-out");
  const set = (patch: Partial<ShotDocument>, label: string) => {
    onEdit({ ...document, ...patch }, label);
  };
  const names = game.header.players as Record<string, { name?: string }> | undefined;
  const words = document.stroke?.words ?? [];

  return (
    <section aria-label="Entry" className="sheet min-w-0 space-y-2 p-3" data-testid="entry">
      <div className="flex flex-wrap items-center gap-1">
        <h2 className="mr-2 text-[15px]">{shot ? "Logged shot" : "Next shot"}</h2>
        {(["A", "B"] as const).map((player) => (
          <Chip
            key={player}
            on={document.player === player}
            onClick={() => {
              set({ player }, "player");
            }}
          >
            {names?.[player]?.name ?? player}
          </Chip>
        ))}
        <span className="ml-auto flex gap-1">
          {shot && (
            <button className="btn btn-ghost btn-xs" onClick={props.onOverrule}>
              Overrule
            </button>
          )}
          {shot && (
            <button className="btn btn-ghost btn-xs" onClick={props.onRemove}>
              Remove
            </button>
          )}
          {!shot && (
            <button className="btn btn-primary btn-xs" onClick={props.onLog} data-testid="log">
              Log <span className="key">Enter</span>
            </button>
          )}
        </span>
      </div>
      {shot?.ruling && (
        <p className="opacity-80" data-testid="ruling">
          {named(shot.ruling.why, names)}.
          {shot.ruling.foul ? ` Foul: ${shot.ruling.fouls.join(", ").replaceAll("-", " ")}.` : ""}
        </p>
      )}
      {!shot && !game.winner && (
        <p className="opacity-80" data-testid="allowed">
          {named(allowedNow(entry, game), names)}
        </p>
      )}
      {answers.length > 0 && (
        <Line name="Answer">
          {answers.map((choice) => (
            <Chip
              key={choice}
              onClick={() => {
                props.onChoice(choice);
              }}
            >
              {choice === "accept" ? "plays on" : "hands it back"}
            </Chip>
          ))}
        </Line>
      )}
      <div className="grid gap-x-6 gap-y-2 xl:grid-cols-[7fr_5fr]">
        <div className="space-y-2">
          <Line name="Meant">
            <span className="chip" data-testid="target-ball">
              {target ? `${target.ball} ball` : "no ball"}
            </span>
            {POCKETS.map((pocket) => (
              <Chip
                key={pocket.name}
                on={target?.pocket === pocket.name}
                faint={target?.offered}
                hint={pocket.key}
                onClick={() => {
                  props.onPocket(pocket.name);
                }}
              >
                {pocket.words}
              </Chip>
            ))}
          </Line>
          <Line name="Kind">
            <Choice
              label="Kind"
              value={document.kind ?? ""}
              options={document.kind === "break" ? ["break", ...KINDS] : KINDS}
              onChange={(kind) => {
                set({ kind: kind as "pot" }, "kind");
              }}
            />
            <Choice
              label="Intent"
              value={document.intent ?? ""}
              options={["", ...INTENTS, ...(document.declared === "push-out" ? ["push-out"] : [])]}
              onChange={(intent) => {
                set({ intent: (intent || null) as "attack" }, "intent");
              }}
            />
            <Choice
              label="Whose word"
              value={document.intent_source ?? "unknown"}
              options={SOURCES}
              onChange={(source) => {
                set({ intent_source: source as "stated" }, "source of the intent");
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
            <Chip
              on={document.seen === false}
              onClick={() => {
                set({ seen: document.seen === false }, "seen");
              }}
            >
              not seen
            </Chip>
          </Line>
          <Line name="Result">
            {RESULTS.map((result) => (
              <Chip
                key={result.id}
                on={document.result === result.id}
                hint={result.key}
                onClick={() => {
                  props.onResult(result.id);
                }}
              >
                <span aria-hidden>{result.sign}</span> {result.words}
              </Chip>
            ))}
          </Line>
          <Line name="Fouls">
            <Chip on={Boolean(document.scratch)} hint="c" onClick={props.onScratch}>
              ⊗ scratch
            </Chip>
            {FOULS.map((foul) => (
              <Chip
                key={foul}
                on={hasFoul(document, foul)}
                onClick={() => {
                  set(withFoul(document, foul, entry.legal), foul);
                }}
              >
                {foul.replaceAll("-", " ")}
              </Chip>
            ))}
          </Line>
        </div>
        <div className="space-y-2">
          <Line name="Fell">
            {(Object.keys(entry.before).length ? Object.keys(entry.before) : game.balls)
              .filter((ball) => ball !== "cue")
              .map((ball) => {
                const fell = document.potted?.some((one) => one.ball === ball) ?? false;
                return (
                  <Chip
                    key={ball}
                    on={fell}
                    name={`fell ${ball}`}
                    onClick={() => {
                      set(withFallen(document, ball, fell), "balls that fell");
                    }}
                  >
                    {ball}
                  </Chip>
                );
              })}
          </Line>
          <Line name="Stroke">
            {STROKES.flatMap((group) =>
              group.map((word) => (
                <Chip
                  key={word}
                  on={words.includes(word)}
                  onClick={() => {
                    const others = words.filter((one) => !group.includes(one));
                    set(
                      {
                        stroke: {
                          ...document.stroke,
                          words: words.includes(word) ? others : [...others, word],
                        },
                      },
                      "stroke",
                    );
                  }}
                >
                  {word}
                </Chip>
              )),
            )}
          </Line>
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

/** What the rules allow now, in a sentence. */
function allowedNow(entry: Entry, game: Game): string {
  const up = entry.rack?.next_up;
  const player = entry.document.player ?? "A";
  if (!up)
    return `${player} breaks rack ${game.racks.length + 1}; the ${entry.legal[0] ?? "1"} must be hit first.`;
  if (up.choices.includes("pass-back"))
    return `After the push-out ${player} plays on from here or hands the shot back; playing on accepts it.`;
  const said = [`${player} to shoot, the ${entry.legal.join(" or ")} must be hit first.`];
  if (up.in_hand === "anywhere") said.push("Cue ball in hand: place it anywhere.");
  if (up.phase === "break") said.push("From behind the head string.");
  if (up.choices.includes("push-out")) said.push("The push-out is allowed.");
  return said.join(" ");
}

/** A ruling with the players' names for the seats A and B. */
function named(why: string, names: Record<string, { name?: string }> | undefined): string {
  const said = why.replace(/\b[AB]\b/g, (seat) => names?.[seat]?.name ?? seat);
  return said.charAt(0).toUpperCase() + said.slice(1);
}

function withFallen(document: ShotDocument, ball: string, fell: boolean): Partial<ShotDocument> {
  const others = (document.potted ?? []).filter((one) => one.ball !== ball);
  const potted = fell ? others : [...others, { ball, pocket: null }];
  const after = document.layout_after?.balls;
  if (fell || !after) return { potted };
  const balls = Object.fromEntries(Object.entries(after).filter(([name]) => name !== ball));
  return { potted, layout_after: { ...document.layout_after, balls } };
}

function Causes({ chosen, onChange }: { chosen: string[]; onChange: (causes: string[]) => void }) {
  const [open, setOpen] = useState(false);
  const offered = open ? CAUSES : [];
  return (
    <Line name="Causes">
      {[...new Set([...chosen, ...offered])].map((cause) => (
        <Chip
          key={cause}
          on={chosen.includes(cause)}
          onClick={() => {
            onChange(chosen.includes(cause) ? chosen.filter((one) => one !== cause) : [...chosen, cause]);
          }}
        >
          {cause}
        </Chip>
      ))}
      <button
        className="btn btn-ghost btn-xs"
        aria-expanded={open}
        onClick={() => {
          setOpen(!open);
        }}
      >
        {open ? "fewer" : "add a cause"}
      </button>
    </Line>
  );
}

const PAUSE = 700; // milliseconds without a key after which a note is written

function Note({ note, onDone }: { note: string; onDone: (note: string) => void }) {
  const [text, setText] = useState(note);
  const field = useRef<HTMLTextAreaElement>(null);
  const done = useRef(onDone);
  useEffect(() => {
    if (field.current !== document.activeElement) setText(note); // written elsewhere in the meantime
  }, [note]);
  useEffect(() => {
    done.current = onDone;
  });
  useEffect(() => {
    const pause = setTimeout(() => {
      done.current(text);
    }, PAUSE);
    return () => {
      clearTimeout(pause);
    };
  }, [text]);
  return (
    <Line name="Note">
      <textarea
        ref={field}
        aria-label="Note"
        rows={2}
        maxLength={4000}
        className="textarea textarea-sm min-h-0 w-full flex-1"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
        }}
        onBlur={() => {
          onDone(text);
        }}
        placeholder="What to tell the player; open questions"
      />
    </Line>
  );
}

function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly string[];
  onChange: (value: string) => void;
}) {
  return (
    <select
      aria-label={label}
      className="select select-xs w-auto"
      value={value}
      onChange={(event) => {
        onChange(event.target.value);
        event.currentTarget.blur(); // keys are the bench's again
      }}
    >
      {options.map((option) => (
        <option key={option} value={option}>
          {option || "unknown"}
        </option>
      ))}
    </select>
  );
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline gap-2">
      <span className="caption w-12 shrink-0">{name}</span>
      <div className="flex min-w-0 flex-1 flex-wrap gap-1">{children}</div>
    </div>
  );
}

function Chip({
  on = false,
  faint = false,
  name,
  hint,
  onClick,
  children,
}: {
  on?: boolean;
  faint?: boolean;
  name?: string;
  hint?: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className={`chip ${on && faint ? "opacity-70" : ""}`}
      aria-pressed={on}
      aria-label={name}
      onClick={onClick}
    >
      {children}{" "}
      {hint && (
        <span className="key" aria-hidden>
          {hint}
        </span>
      )}
    </button>
  );
}
