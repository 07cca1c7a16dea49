/** The verdict as the page shows it: moments sorted by what they cost, lines of win chance, amounts in words. */
import type { Game, Ledger, LedgerEntry, LedgerRack, Named, Shot } from "../../api/types";

export const PARTS = ["decision", "pot", "position", "luck"] as const;
export type Part = (typeof PARTS)[number];
export const ALL_PARTS = [...PARTS, "unsplit"] as const;

export const PART_WORDS: Record<(typeof ALL_PARTS)[number], string> = {
  decision: "decisions",
  pot: "potting",
  position: "position",
  luck: "luck",
  unsplit: "cannot be told",
};

export const PHASE_WORDS: Record<string, string> = {
  opening: "opening",
  pattern: "pattern",
  recovery: "recovery",
  end: "end pattern",
};

const SURE = 1.96; // standard errors on either side hold 95 of 100
const WORTH = 0.05; // what "more than five points" means

export interface Moment {
  rack: number;
  index: number;
  entry: LedgerEntry;
  shot: Shot;
  /** What it cost its player in what is looked for, and the half of its 95 % interval. */
  cost: number;
  error: number;
  turning: boolean;
}

export const WHATS = [
  "all",
  "decisions",
  "attack for safety",
  "safety for attack",
  "execution",
  "luck",
] as const;
export type What = (typeof WHATS)[number];

export interface Wanted {
  player: "A" | "B" | null;
  what: What;
  /** Only what cost more than five points (half a ball in straight pool). */
  dear: boolean;
  /** Also what cost less than its ±: that is not called an error. */
  unsure: boolean;
}

/** All moments that are wanted, the dearest first. */
export function momentsOf(game: Game, ledger: Ledger, wanted: Wanted): Moment[] {
  const least = wanted.dear ? (ledger.unit === "balls" ? 0.5 : WORTH) : 0;
  return (ledger.racks ?? [])
    .flatMap((rack, number) =>
      rack.shots.flatMap((entry, index) => {
        const shot = game.racks[number]?.shots.find((one) => one.id === entry.id);
        if (!shot || !belongs(entry, wanted)) return [];
        return [
          {
            rack: number,
            index,
            entry,
            shot,
            ...costOf(entry, wanted.what),
            turning: index === rack.turning_point,
          },
        ];
      }),
    )
    .filter((one) => one.cost > Math.max(least, 1e-6) && (wanted.unsure || one.cost > one.error))
    .sort((a, b) => b.cost - a.cost);
}

function belongs(entry: LedgerEntry, { player, what }: Wanted): boolean {
  if (player && entry.player !== player) return false;
  const called = entry.named.map((one) => one.what);
  if (what === "attack for safety") return called.includes("attack-for-safety");
  if (what === "safety for attack") return called.includes("safety-for-attack");
  return true;
}

const PARTS_OF: Record<What, readonly Part[]> = {
  all: ["decision", "pot", "position"],
  decisions: ["decision"],
  "attack for safety": ["decision"],
  "safety for attack": ["decision"],
  execution: ["pot", "position"],
  luck: ["luck"],
};

/** What an entry cost its player; the dearest candidate where its decision cannot be told. */
function costOf(entry: LedgerEntry, what: What): { cost: number; error: number } {
  const parts = PARTS_OF[what].filter((part) => entry[part] !== null);
  const cost = -parts.reduce((sum, part) => sum + (entry[part] ?? 0), 0);
  const error = SURE * Math.hypot(...parts.map((part) => entry.error[part] ?? 0));
  const said = Math.max(0, ...entry.named.map((one) => one.cost ?? 0));
  return parts.length === 0 ? { cost: said, error: 0 } : { cost, error };
}

/** "−21 points", in straight pool "−1.4 balls": what it came to. */
export function amount(value: number, unit: Ledger["unit"]): string {
  const sign = value > 0 ? "+" : value < 0 ? "−" : "";
  if (unit === "balls") return `${sign}${Math.abs(value).toFixed(1)} balls`;
  const points = Math.abs(100 * value);
  return `${sign}${points.toFixed(points < 10 ? 1 : 0)} points`;
}

/** The same without its unit, where there is little room. */
export const short = (value: number, unit: Ledger["unit"]) => amount(value, unit).replace(/ \w+$/, "");

/** A sum over a match in racks: a hundred points are one. */
export function inRacks(value: number, unit: Ledger["unit"]): string {
  const sign = value > 0.005 ? "+" : value < -0.005 ? "−" : "";
  return `${sign}${Math.abs(value).toFixed(unit === "balls" ? 1 : 2)}`;
}

/** The half of a 95 % interval. */
export const half = (error: number | null | undefined) => SURE * (error ?? 0);

/** A's value before each entry, and at the end. */
export function lineOf(rack: LedgerRack, unit: Ledger["unit"]): number[] {
  const of = (entry: LedgerEntry, value: number) =>
    entry.player === "A" ? value : unit === "balls" ? -value : 1 - value;
  return [rack.start, ...rack.shots.map((entry) => of(entry, entry.after))];
}

/** What a coach may nod at: candidates that have a cause's name and are not logged with it yet. */
export const candidates = (entry: LedgerEntry, shot: Shot): Named[] =>
  entry.named.filter((one) => one.cause && !(shot.document.causes ?? []).includes(one.cause));
