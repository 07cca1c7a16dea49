/** What a tenth of speed or half a tip more or less does to a choice: its pot, and how far the cue ball then stops from
 * where it should. */
import { useSimulation } from "../../../api/queries";
import type { Option, Places, SimulateRequest } from "../../../api/types";
import { percent } from "../../../words";

const SAMPLES = 300;
const HALF_A_TIP = 0.22; // of the ball's radius: half of a 12.5 mm tip
const MOST_OFF = 0.5; // of the radius: further out the tip slips

export interface Played {
  table: unknown;
  discipline: string;
  balls: Places;
  hand: Record<string, number> | string;
}

/** How a stroke is struck otherwise than it was meant. */
export const MISHITS: { words: string; pace: number; height: number }[] = [
  { words: "a tenth firmer", pace: 1.1, height: 0 },
  { words: "a tenth softer", pace: 0.9, height: 0 },
  { words: "half a tip higher", pace: 1, height: HALF_A_TIP },
  { words: "half a tip lower", pace: 1, height: -HALF_A_TIP },
];

export function Mishit({ option, on, of }: { option: Option; on: Played; of: (typeof MISHITS)[number] }) {
  const meant = useSimulation(requestOf(option, on, 1, 0));
  const struck = useSimulation(requestOf(option, on, of.pace, of.height));
  if (struck.error) return <>–</>;
  if (!meant.data || !struck.data) return <>…</>;
  const [should, does] = [stopOf(meant.data), stopOf(struck.data)];
  const off = should && does ? Math.hypot(should[0] - does[0], should[1] - does[1]) : null;
  const stop = off === null ? "cue ball lost" : `${(100 * off).toFixed(0)} cm off`;
  const pot = struck.data.samples?.pot;
  return <>{option.ball && pot?.p != null ? `pot ${percent(pot.p)}, ${stop}` : stop}</>;
}

function stopOf(data: NonNullable<ReturnType<typeof useSimulation>["data"]>) {
  return (data.shot.final as { balls?: Places }).balls?.["cue"] ?? null;
}

function requestOf(option: Option, on: Played, pace: number, lift: number): SimulateRequest | null {
  const stroke = option.stroke as {
    aim?: number | null;
    speed: number;
    side?: number;
    height?: number;
    elevation?: number;
    place?: [number, number] | null;
  };
  const balls = stroke.place ? { ...on.balls, cue: stroke.place } : on.balls;
  if (!balls["cue"] || stroke.aim == null) return null;
  const side = stroke.side ?? 0;
  const room = Math.sqrt(Math.max(0, MOST_OFF ** 2 - side ** 2));
  return {
    table: on.table,
    discipline: on.discipline,
    balls,
    state: {},
    physics: {},
    stroke: {
      aim: stroke.aim,
      at: null,
      pocket: null,
      part: null,
      speed: stroke.speed * pace,
      side,
      height: Math.min(room, Math.max(-room, (stroke.height ?? 0) + lift)),
      elevation: stroke.elevation ?? 0,
    },
    hand: on.hand,
    samples: SAMPLES,
    seed: 1,
  };
}
