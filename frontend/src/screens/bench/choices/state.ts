/** What the choices are asked for: whose hands, which school, and a table that differs from the logged one. */
import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { HandName, Place, Places } from "../../../api/types";

export const HANDS = ["record", "beginner", "club", "league", "professional"] as const;

interface Asked {
  open: boolean;
  map: boolean;
  /** The table as it is tried out, in the place of the logged one, and for which entry. */
  tried: { entry: string; balls: Places } | null;
  /** The option that is looked at, by its place in the list. */
  option: number | null;
  /** Another that it is laid over. */
  other: number | null;
  /** The ball of the plan whose map is shown; null: the ball that is on. */
  ball: string | null;
  settle: boolean;
  /** Balls that the coach wants the order to begin with; empty: the best order. */
  begin: string[];
  /** Whether the order is drawn on the table, with a zone for each ball. */
  order: boolean;
  /** The stroke that the coach adds; `aim` is the point it is aimed at. */
  drawing: { aim: Place | null; speed: number; side: number; height: number } | null;
  drawn: { entry: string; stroke: { aim: number; speed: number; side: number; height: number } } | null;
}

const closed: Asked = {
  open: false,
  map: true,
  tried: null,
  option: null,
  other: null,
  ball: null,
  settle: false,
  begin: [],
  order: false,
  drawing: null,
  drawn: null,
};

export const useAsked = create<Asked>(() => closed);

interface Assumed {
  player: HandName;
  opponent: HandName;
  /** Empty: as the match has it, else right. */
  handed: "" | "right" | "left" | "both";
  school: string;
}

export const useAssumed = create<Assumed>()(
  persist((): Assumed => ({ player: "record", opponent: "record", handed: "", school: "by the numbers" }), {
    name: "aretane-assumed",
  }),
);
