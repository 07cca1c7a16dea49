/** What can be done at the bench. Every action ends in an edit of the entry, a change, or a word to the coach. */
import { useLayoutEffect, useRef, useState } from "react";

import type { Writing } from "../model/changes";
import type { Workbench } from "../model/useWorkbench";
import { foundActions } from "../found/actions";
import { ballActions } from "./balls";
import { entryActions } from "./entry";
import { filmActions } from "./film";
import { inkActions } from "./ink";

function actionsOf(bench: Workbench, writing: Writing) {
  const entry = entryActions(bench, writing);
  const film = filmActions(bench, entry);
  const found = foundActions(bench, entry, film.saveMarks);
  const balls = ballActions(bench, entry, found);
  return {
    ...entry,
    ...film,
    ...found,
    ...balls,
    ...inkActions(bench, entry),
    verdict: writing.verdict,
    practise: writing.practise,
  };
}

export type Actions = ReturnType<typeof actionsOf>;

/** The actions on the bench as it is at the moment at which one is called: they themselves stay the same. */
export function useActions(bench: Workbench, writing: Writing): Actions {
  const now = useRef({ bench, writing });
  useLayoutEffect(() => {
    now.current = { bench, writing };
  });
  const [actions] = useState(() => {
    const names = Object.keys(actionsOf(bench, writing)) as (keyof Actions)[];
    const call =
      (name: keyof Actions) =>
      (...given: unknown[]) =>
        (actionsOf(now.current.bench, now.current.writing)[name] as (...given: unknown[]) => unknown)(
          ...given,
        );
    return Object.fromEntries(names.map((name) => [name, call(name)])) as unknown as Actions;
  });
  return actions;
}
