/** The bench listens to the whole window: no field has to be clicked before a key is pressed. */
import { useEffect, useRef } from "react";

import type { Actions } from "./actions";
import { commandFor } from "./commands";
import { isTyping } from "./keys";
import { clear } from "./state";
import type { Workbench } from "./useWorkbench";

export function useKeys(bench: Workbench, actions: Actions): void {
  const now = useRef({ bench, actions });
  useEffect(() => {
    now.current = { bench, actions };
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (isTyping(event)) return;
      const command = commandFor(event, now.current.bench, now.current.actions);
      if (!command) return;
      event.preventDefault();
      command(event.shiftKey);
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
    };
  }, []);
}
