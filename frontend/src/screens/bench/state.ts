/** What the bench itself has to remember; everything that was seen of a match is on the server. */
import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { Marks, Place, ShotDocument } from "../../api/types";

export type Tool = "look" | "place" | "zone" | "route" | "mark";
export type Moment = "before" | "after";

interface BenchState {
  tool: Tool;
  moment: Moment;
  /** The ball that the tool is about: the next one to place, the one whose zone is set. */
  placing: string | null;
  chosen: string | null;
  dragged: { ball: string; place: Place } | null;
  marks: Marks | null;
  looping: boolean;
  said: string | null;
  /** The shot of the strip of found ones that is looked at. */
  foundShot: string | null;
  /** Balls of the layout just read whose names are not sure. */
  doubts: string[];
  /** The layout as it would look, in the place of the picture. */
  flicker: boolean;
  dialog: "keys" | "overrule" | "recordings" | "diamonds" | null;
}

const atRest: BenchState = {
  tool: "look",
  moment: "before",
  placing: null,
  chosen: null,
  dragged: null,
  marks: null,
  looping: false,
  said: null,
  foundShot: null,
  doubts: [],
  flicker: false,
  dialog: null,
};

export const useBench = create<BenchState>(() => atRest);

export const say = (said: string | null) => {
  useBench.setState({ said });
};

export const putDown = () => {
  useBench.setState({ tool: "look", placing: null, marks: null });
};

export const open = (dialog: BenchState["dialog"]) => {
  useBench.setState({ dialog });
};

export const clear = () => {
  useBench.setState(atRest);
};

/** The entry that is being made, by match: kept in the browser until it is logged. */
export const useDrafts = create<{ drafts: Record<string, ShotDocument> }>()(
  persist(() => ({ drafts: {} }), { name: "aretane-drafts" }),
);

export function keepDraft(game: string, draft: ShotDocument | null): void {
  useDrafts.setState(({ drafts }) => {
    const others = Object.fromEntries(Object.entries(drafts).filter(([id]) => id !== game));
    return { drafts: draft ? { ...others, [game]: draft } : others };
  });
}
