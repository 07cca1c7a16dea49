/** The command line: type what you want; every command that is possible now, with its key. */
import { Dialog } from "../../../parts/Dialog";
import { Finder } from "../../../parts/Finder";
import type { Actions } from "../actions";
import { commandsOf, type Command } from "../keys/commands";
import type { Workbench } from "../model/useWorkbench";

interface Props {
  bench: Workbench;
  actions: Actions;
  onClose: () => void;
}

export function Palette({ bench, actions, onClose }: Props) {
  const commands = commandsOf(bench, actions);
  const byName = new Map(commands.map((one) => [one.name, one]));
  const hints = Object.fromEntries(commands.map((one) => [one.name, one.shown ?? one.key]));
  return (
    <Dialog title="What do you want to do?" onClose={onClose} wide>
      <Finder
        label="Command"
        all={[...byName.keys()]}
        hints={hints}
        onPick={(name) => {
          onClose();
          byName.get(name)?.run(false);
        }}
        onClose={onClose}
      />
    </Dialog>
  );
}

/** The keys that do something now, by what they are about. */
export function KeysDialog({ bench, actions, onClose }: Props) {
  const keys = commandsOf(bench, actions).filter((one) => one.key ?? one.shown);
  const sections = [...new Set(keys.map((one) => one.section))];
  return (
    <Dialog title="What is possible now" onClose={onClose} wide>
      <div className="columns-1 gap-x-8 sm:columns-2">
        {sections.map((section) => (
          <section key={section} className="mb-4 break-inside-avoid-column">
            <h3 className="caption mb-1">{section}</h3>
            <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
              {keys
                .filter((one) => one.section === section)
                .map((one) => (
                  <KeyLine key={`${one.name} ${one.key ?? ""}`} command={one} />
                ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}

function KeyLine({ command }: { command: Command }) {
  return (
    <div className="contents">
      <dt>
        <kbd className="key !text-[12px] !opacity-100">{command.shown ?? command.key}</kbd>
      </dt>
      <dd>{command.name}</dd>
    </div>
  );
}
