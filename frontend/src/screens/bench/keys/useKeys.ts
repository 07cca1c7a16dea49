/** The bench listens to the whole window: no field has to be clicked before a key is pressed. */
import { useEffect, useLayoutEffect, useRef } from "react";
import { flushSync } from "react-dom";

import type { Actions } from "../actions";
import { clear } from "../model/state";
import { forgetDeeds } from "../model/history";
import type { Workbench } from "../model/useWorkbench";
import { commandFor } from "./commands";
import { isTyping } from "./typing";

export function useKeys(bench: Workbench, actions: Actions): void {
  const now = useRef(bench);
  useLayoutEffect(() => {
    now.current = bench;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (isTyping(event)) return;
      const command = commandFor(event, now.current, actions);
      if (!command) return;
      event.preventDefault();
      if (event.repeat && !/^(Arrow|[-+<>]$)/.test(event.key)) return; // held down it is still one deed
      // The next key, however soon, finds the bench as this one leaves it.
      flushSync(() => {
        command(event.shiftKey);
      });
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
