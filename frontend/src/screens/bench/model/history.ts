/** What was done on this screen, newest last: it is taken back in that order, and said. */
import { create } from "zustand";

export interface Done {
  label: string;
  undo: () => void;
  redo: () => void;
}

interface History {
  done: Done[];
  undone: Done[];
}

const MOST = 200;

export const useHistory = create<History>(() => ({ done: [], undone: [] }));

/** A new deed ends what can be done again. */
export const remember = (deed: Done) => {
  useHistory.setState(({ done }) => ({ done: [...done, deed].slice(-MOST), undone: [] }));
};

/** The newest deed taken back, or the newest that was taken back done again; undefined where there is none. */
export function turnBack(direction: "undo" | "redo"): Done | undefined {
  const { done, undone } = useHistory.getState();
  const deed = (direction === "undo" ? done : undone).at(-1);
  if (!deed) return undefined;
  if (direction === "undo") useHistory.setState({ done: done.slice(0, -1), undone: [...undone, deed] });
  else useHistory.setState({ done: [...done, deed], undone: undone.slice(0, -1) });
  deed[direction]();
  return deed;
}

export const forgetDeeds = () => {
  useHistory.setState({ done: [], undone: [] });
};
