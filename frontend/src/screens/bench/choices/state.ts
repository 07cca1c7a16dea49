/** What the choices are asked for: whose hands, which school, and a table that differs from the logged one. */
import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { HandName, Place, Places, Pocket } from "../../../api/types";

export const HANDS = ["record", "beginner", "club", "league", "professional"] as const;

/** A ball of a plan that is being laid down; its zone is where the cue ball should be to play it. */
interface Laid {
  ball: string;
  pocket: Pocket | null;
  side: string | null;
  speed: string | null;
  zone: { centre: Place; radius: number } | null;
}

/** A plan that is being laid down, for one entry. */
export interface Draft {
  entry: string;
  by: string;
  order: Laid[];
  words: string;
  reason: string;
  felt: string;
}

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
  /** The plan that is being laid down: balls that are pressed on the table come into it. */
  laying: Draft | null;
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
  laying: null,
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

/** A ball into the plan that is being laid down, or out of it. */
export function layBall(ball: string): void {
  const { laying } = useAsked.getState();
  if (!laying || ball === "cue") return;
  const there = laying.order.some((one) => one.ball === ball);
  const order = there
    ? laying.order.filter((one) => one.ball !== ball)
    : [...laying.order, { ball, pocket: null, side: null, speed: null, zone: null }];
  useAsked.setState({ laying: { ...laying, order } });
}

/** Where the cue ball should be to play the ball that was laid last. */
export function layZone(centre: Place, radius: number): void {
  const { laying } = useAsked.getState();
  const last = laying?.order.at(-1);
  if (!laying || !last) return;
  const order = [...laying.order.slice(0, -1), { ...last, zone: { centre, radius } }];
  useAsked.setState({ laying: { ...laying, order } });
}
