/** The bench listens to the whole window: no field has to be clicked before a key is pressed. */
import { useLayoutEffect, useRef } from "react";
import { flushSync } from "react-dom";

import { useOutbox } from "../../../api/outbox";
import type { Actions } from "../actions";
import { forgetDeeds } from "../model/history";
import { clear } from "../model/state";
import type { Workbench } from "../model/useWorkbench";
import { commandFor } from "./commands";
import { isTyping } from "./typing";

const PATIENCE = 1500; // ms for which keys wait for the referee

/** What is on next is the referee's to say: while he is asked (and can be), what is typed ahead waits. */
function referee(game: string): boolean {
  const { waiting, away } = useOutbox.getState();
  return !away && waiting.some((one) => one.game === game && !one.refused);
}

type Press = Pick<KeyboardEvent, "key" | "code" | "shiftKey">;

export function useKeys(bench: Workbench, actions: Actions): void {
  const now = useRef(bench);
  const ahead = useRef<{ keys: Press[]; since: number }>({ keys: [], since: 0 });
  const drain = useRef<() => void>(() => undefined);
  useLayoutEffect(() => {
    now.current = bench;
    if (ahead.current.keys.length) queueMicrotask(drain.current);
  });
  // Before the bench is painted: who sees it may press a key at once.
  useLayoutEffect(() => {
    const run = (event: Press) => {
      // The next key, however soon, finds the bench as this one leaves it.
      flushSync(() => {
        commandFor(event, now.current, actions)?.(event.shiftKey);
      });
    };
    const waits = () => referee(now.current.game.id) && performance.now() - ahead.current.since < PATIENCE;
    drain.current = () => {
      while (ahead.current.keys.length && !waits()) {
        const next = ahead.current.keys.shift();
        ahead.current.since = performance.now();
        if (next) run(next);
      }
    };
    const press = (event: KeyboardEvent) => {
      if (isTyping(event)) return;
      const { key, code, shiftKey } = event;
      if (!commandFor(event, now.current, actions)) return;
      event.preventDefault();
      if (event.repeat && !/^(Arrow|[-+<>]$)/.test(key)) return; // held down it is still one deed
      if (!ahead.current.keys.length) ahead.current.since = performance.now();
      if (ahead.current.keys.length || waits()) {
        ahead.current.keys.push({ key, code, shiftKey });
        setTimeout(drain.current, PATIENCE);
      } else run(event);
    };
    // A button that was clicked gives the keyboard back to the bench; one reached with Tab keeps it.
    const release = (event: MouseEvent) => {
      if (event.detail > 0) (event.target as HTMLElement).closest<HTMLElement>("button, a")?.blur();
    };
    window.addEventListener("keydown", press);
    window.addEventListener("click", release);
    return () => {
      window.removeEventListener("keydown", press);
      window.removeEventListener("click", release);
      clear();
      forgetDeeds();
    };
  }, [actions]);
}
