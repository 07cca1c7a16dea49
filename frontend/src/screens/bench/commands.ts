/** Keys to actions. What each key does is told in `keys.ts`, which `?` shows. */
import { INTENTS, KINDS, POCKETS, RESULTS, SOURCES } from "../../words";
import type { Actions } from "./actions";
import { useAsked } from "./choices/state";
import { callSafety, pushOut, withFoul } from "./entry";
import { foundCommand } from "./found/commands";
import { open, putDown, say, useBench } from "./state";
import type { Workbench } from "./useWorkbench";

type Command = (shift: boolean) => void;

const ZONE_STEP = 0.02;

export function commandFor(
  { key, code }: { key: string; code: string },
  bench: Workbench,
  actions: Actions,
): Command | undefined {
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(code)?.[1] ?? /^(\d)$/.exec(key)?.[1];
  const ofFound = foundCommand(key, digit, bench, actions);
  if (ofFound) return ofFound;
  if (digit) return (shift) => { actions.chooseByKey(Number(digit), shift); }; // prettier-ignore
  const pocket = POCKETS.find((one) => one.key === key);
  if (pocket) return () => { actions.choosePocket(pocket.name); }; // prettier-ignore
  const result = RESULTS.find((one) => one.key === key);
  if (result) return () => { actions.result(result.id); }; // prettier-ignore
  return commands(bench, actions)[key];
}

// prettier-ignore
function commands({ game, document, entry, player, moment, chosen, target }: Workbench, actions: Actions): Record<string, Command> {
  const { set } = actions;
  return {
    k: () => { set({ kind: following(KINDS, document.kind) }, "kind"); },
    i: () => { set({ intent: following(INTENTS, document.intent) }, "intent"); },
    o: () => { set({ intent_source: following(SOURCES, document.intent_source) }, "source of the intent"); },
    x: () => {
      if (entry.up?.choices.includes("push-out")) set(pushOut(document), "push-out");
      else if (game.rules["call"]) set(callSafety(document), "safety called");
    },
    c: actions.scratch,
    f: () => { set(withFoul(document, "no-rail", entry.legal), "no rail"); },
    Enter: actions.logEntry,
    p: actions.startPlacing,
    z: () => { actions.startZone("cue"); },
    Z: () => { actions.startZone(chosen && chosen !== "cue" ? chosen : target?.ball); },
    "-": () => { actions.resizeZone(-ZONE_STEP); },
    "+": () => { actions.resizeZone(ZONE_STEP); },
    r: actions.startRoute,
    b: () => { actions.look(moment === "before" ? "after" : "before"); },
    y: () => { open("diamonds"); },
    Delete: actions.takeOff,
    Escape: () => { putDown(); say(null); },
    " ": player.toggle,
    ArrowRight: (shift) => { if (shift) player.jump(1); else player.step(1); },
    ArrowLeft: (shift) => { if (shift) player.jump(-1); else player.step(-1); },
    "<": () => { player.faster(-1); },
    ">": () => { player.faster(1); },
    v: () => { useBench.setState((state) => ({ looping: !state.looping })); },
    "[": () => { actions.markTime("start"); },
    "\\": () => { actions.markTime("contact"); },
    "]": () => { actions.markTime("still"); },
    R: actions.readStill,
    D: actions.nextDoubtful,
    N: actions.addFound,
    F: actions.flicker,
    h: actions.turnRound,
    ArrowDown: () => { actions.step(1); },
    ArrowUp: () => { actions.step(-1); },
    ".": () => { actions.step(1); },
    ",": () => { actions.step(-1); },
    u: () => { actions.reverse("undo"); },
    U: () => { actions.reverse("redo"); },
    C: () => { useAsked.setState((state) => ({ open: !state.open, option: null, ball: null, drawing: null })); },
    M: () => { useAsked.setState((state) => ({ map: !state.map })); },
    "?": () => { open("keys"); },
  };
}

function following<T extends string>(options: readonly T[], now: string | null | undefined): T | undefined {
  return options[(options.findIndex((one) => one === now) + 1) % options.length];
}
