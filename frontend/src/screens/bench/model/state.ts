/** What the bench itself remembers: the tool in hand, the moment looked at, what is being entered. */
import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { Marks, Place, ShotDocument } from "../../../api/types";
import type { Ink, Kind } from "../../../table/ink";

export type Tool = "look" | "mark" | "place" | "zone" | "route" | "ink";
export type Moment = "before" | "after";
/** What lies folded behind one key each. */
export type Group =
  "fouls" | "causes" | "stroke" | "break" | "fell" | "about" | "routine" | "questions" | "note";
/** A word of the sentence that is being put right. */
export type Asked = "player" | "called" | "result" | "first_contact";
export type ZoneShape = "disc" | "window" | "wedge" | "outline" | "dead";

/** What is being drawn by hand: the points that are set, and the one that is being chosen. */
export interface Pen {
  kind: Kind;
  ink: Ink;
  points: Place[];
  at: Place | null;
}
/** A match that plays itself: which of its shots, and whether it halts at its still picture, runs, or was stopped. */
export interface Watching {
  at: number;
  phase: "halts" | "runs" | "stopped";
}

interface BenchState {
  tool: Tool;
  moment: Moment;
  /** The ball that the next click places. */
  placing: string | null;
  /** A ball that was clicked: the one that is meant, or that a key names or moves. */
  chosen: string | null;
  dragged: { ball: string; place: Place } | null;
  /** Marks being dragged, in place of those of the view that is shown. */
  marks: Marks | null;
  /** The mark that the arrows move. */
  mark: string | null;
  looping: boolean;
  said: string | null;
  /** The found shot that is being looked at, before it is taken into the log. */
  foundShot: string | null;
  /** Balls whose names a look at the picture could not tell for sure. */
  doubts: string[];
  /** The layout as it would look, in the place of the picture. */
  flicker: boolean;
  group: Group | null;
  asked: Asked | null;
  /** Where a forgotten shot is put: before this one. */
  insert: string | null;
  zone: ZoneShape;
  /** Where the bench is going: the address follows, which takes its time. */
  going: string | null;
  /** What the zone that is being drawn is for: a ball, or a safety. */
  zoneNext: string | null;
  /** The corners of a zone that is being drawn. */
  corners: Place[];
  pen: Pen;
  watching: Watching | null;
  dialog:
    | "keys"
    | "commands"
    | "overrule"
    | "recordings"
    | "diamonds"
    | "hole"
    | "break"
    | "about"
    | "alike"
    | null;
}

const atRest: BenchState = {
  tool: "look",
  moment: "before",
  placing: null,
  chosen: null,
  dragged: null,
  marks: null,
  mark: null,
  looping: false,
  said: null,
  foundShot: null,
  doubts: [],
  flicker: false,
  group: null,
  asked: null,
  insert: null,
  zone: "disc",
  going: null,
  zoneNext: null,
  corners: [],
  pen: { kind: "line", ink: "dark", points: [], at: null },
  watching: null,
  dialog: null,
};

export const useBench = create<BenchState>(() => atRest);

export const say = (said: string | null) => {
  useBench.setState({ said });
};

export const putDown = () => {
  useBench.setState((state) => ({
    said: state.tool === "look" ? state.said : null, // how to use what is put down no longer holds
    tool: "look",
    placing: null,
    marks: null,
    mark: null,
    corners: [],
    zoneNext: null,
    pen: { ...state.pen, points: [], at: null },
  }));
};

export const open = (dialog: BenchState["dialog"]) => {
  useBench.setState({ dialog });
};

export const clear = () => {
  useBench.setState(atRest);
};

/** Entries that are being made, kept in the browser until they are logged: by match, or by match and found shot. */
export const useDrafts = create<{ drafts: Record<string, ShotDocument> }>()(
  persist(() => ({ drafts: {} }), { name: "aretane-drafts" }),
);

export function keepDraft(key: string, draft: ShotDocument | null): void {
  useDrafts.setState(({ drafts }) => {
    const others = Object.fromEntries(Object.entries(drafts).filter(([id]) => id !== key));
    return { drafts: draft ? { ...others, [key]: draft } : others };
  });
}
