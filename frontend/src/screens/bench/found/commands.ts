/** Keys while a found shot is looked at; the rest of the keyboard stays the bench's. */
import { ballsOfKey } from "../../../games/discipline";
import type { Actions } from "../actions";
import { say, useBench } from "../state";
import type { Workbench } from "../useWorkbench";

type Command = (shift: boolean) => void;

export function foundCommand(
  key: string,
  digit: string | undefined,
  bench: Workbench,
  actions: Actions,
): Command | undefined {
  const { foundShots, chosen, moment } = bench;
  if (!foundShots.shot) return undefined;
  if (digit)
    return (shift) => {
      const [name] = ballsOfKey(bench.game.header.discipline, Number(digit), shift, bench.game.balls);
      if (!chosen) say("Click a ball first; a digit names it.");
      else if (name) foundShots.name(chosen, name);
    };
  const commands: Record<string, Command> = {
    Enter: (shift) => {
      if (shift) actions.takeAllFound();
      else actions.takeFound();
    },
    Delete: () => {
      if (chosen) foundShots.noBall(chosen);
      else foundShots.remove();
    },
    c: () => {
      if (chosen) foundShots.name(chosen, "cue");
    },
    Z: foundShots.takeBack,
    m: foundShots.merge,
    s: () => {
      foundShots.split(bench.player.time);
    },
    x: actions.toggleKind,
    b: () => {
      actions.lookAtSide(moment === "before" ? "after" : "before");
    },
    ArrowDown: () => {
      actions.stepFound(1);
    },
    ArrowUp: () => {
      actions.stepFound(-1);
    },
    Escape: () => {
      useBench.setState({ foundShot: null, chosen: null });
      say(null);
    },
  };
  return commands[key];
}
