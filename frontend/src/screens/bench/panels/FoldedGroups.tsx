/** What is seldom said, behind one key each; opened, every word has its letter. */
import type { Game } from "../../../api/types";
import { CAUSES } from "../../../words";
import { Finder } from "../../../parts/Finder";
import { Voice } from "../../../parts/Voice";
import type { Actions } from "../actions";
import type { Entry } from "../model/entry";
import { foldedOf, itemsOf, toggled, type Folded, type Item } from "../model/groups";
import { useBench } from "../model/state";
import { Note, Questions, useKeptNote } from "./Remarks";

interface Props {
  game: Game;
  entry: Entry;
  actions: Actions;
}

export function FoldedGroups({ game, entry, actions }: Props) {
  const group = useBench((state) => state.group);
  const folded = foldedOf(game, entry);
  useKeptNote(entry.key, (note) => {
    actions.set({ note }, "note");
  });
  return (
    <>
      <div
        role="group"
        aria-label="More"
        className="flex flex-wrap gap-x-3 gap-y-1 border-t border-base-300 pt-2"
      >
        {folded.map((one) => (
          <Fold key={one.group} folded={one} open={one.group === group} />
        ))}
      </div>
      {group && <Unfolded key={`${group} ${entry.key}`} game={game} entry={entry} actions={actions} />}
    </>
  );
}

function Fold({ folded, open }: { folded: Folded; open: boolean }) {
  return (
    <button
      type="button"
      className={`max-w-64 cursor-pointer truncate text-[12px] ${open ? "underline underline-offset-4" : ""}`}
      aria-expanded={open}
      data-fold={folded.group}
      onClick={() => {
        useBench.setState({ group: open ? null : folded.group });
      }}
    >
      {folded.title}
      {folded.said && <b className="font-normal">: {folded.said}</b>}{" "}
      <span className="key" aria-hidden>
        {/[A-Z]/.test(folded.key) ? `⇧${folded.key}` : folded.key}
      </span>
    </button>
  );
}

function Unfolded({ game, entry, actions }: Props) {
  const group = useBench((state) => state.group);
  const { document } = entry;
  const close = () => {
    useBench.setState({ group: null });
  };
  if (group === "causes") {
    const chosen = document.causes ?? [];
    return (
      <Finder
        label="Causes"
        all={[...new Set([...chosen, ...CAUSES])]}
        chosen={chosen}
        own
        onPick={(cause) => {
          actions.set({ causes: toggled(chosen, cause) }, "causes");
        }}
        onClose={close}
      />
    );
  }
  if (group === "note")
    return (
      <>
        <Note
          id={entry.key}
          note={document.note ?? ""}
          onDone={(note) => {
            if (note !== (document.note ?? "")) actions.set({ note }, "note");
          }}
          onClose={close}
        />
        {entry.shot && <Voice game={game.id} shot={entry.shot.id} />}
      </>
    );
  if (group === "questions")
    return (
      <Questions
        questions={document.questions ?? []}
        onChange={(questions) => {
          actions.set({ questions }, "questions");
        }}
        onClose={close}
      />
    );
  return group && <Letters items={itemsOf(group, game, entry, actions)} />;
}

/** One line for what belongs together. */
function Letters({ items }: { items: Item[] }) {
  const lines = [...new Set(items.map((item) => item.line))];
  return (
    <div className="space-y-1" data-testid="unfolded">
      {lines.map((line) => (
        <div key={line} className="flex items-baseline gap-2">
          <span className="caption w-16 shrink-0">{line}</span>
          <div className="flex min-w-0 flex-1 flex-wrap gap-1">
            {items
              .filter((item) => item.line === line)
              .map((item) => (
                <button
                  key={item.id}
                  type="button"
                  className="chip"
                  aria-pressed={item.on}
                  title={item.means}
                  onClick={item.run}
                >
                  {line === "fell" && <span className="sr-only">fell</span>} {item.words}{" "}
                  {item.letter && (
                    <span className="key" aria-hidden>
                      {item.letter}
                    </span>
                  )}
                </button>
              ))}
          </div>
        </div>
      ))}
    </div>
  );
}
