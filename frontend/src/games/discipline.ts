/** What the disciplines call things, and which keys name their balls. */
import type { Game, Pocket } from "../api/types";

export type Name = Game["header"]["discipline"];

export interface Discipline {
  name: Name;
  title: string;
  /** What is won: racks or frames; what a player plays until the turn passes; the cue ball lost in a pocket. */
  rack: string;
  visit: string;
  best: string;
  scratch: string;
  money: string | null;
  pockets: Record<Pocket, string>;
  fouls: readonly string[];
  /** The groups of like balls, by the beginning of their ids; empty where every ball is its own. */
  sorts: readonly string[];
  race: string;
}

const POOL_POCKETS: Record<Pocket, string> = {
  "head-left": "head left",
  "side-left": "side left",
  "foot-left": "foot left",
  "head-right": "head right",
  "side-right": "side right",
  "foot-right": "foot right",
};

const BAULK_POCKETS: Record<Pocket, string> = {
  "head-left": "baulk left",
  "side-left": "middle left",
  "foot-left": "top left",
  "head-right": "baulk right",
  "side-right": "middle right",
  "foot-right": "top right",
};

const POOL_FOULS = [
  "no-contact",
  "no-rail",
  "off-table",
  "double-hit",
  "push",
  "touching-ball",
  "moved-ball",
];

function pool(name: Name, title: string, more: Partial<Discipline> = {}): Discipline {
  return {
    name,
    title,
    rack: "rack",
    visit: "inning",
    best: "best run",
    scratch: "scratch",
    money: null,
    pockets: POOL_POCKETS,
    fouls: [...POOL_FOULS, "illegal-break"],
    sorts: [],
    race: "racks",
    ...more,
  };
}

const ALL: Discipline[] = [
  pool("nine-ball", "Nine-ball", { money: "9" }),
  pool("ten-ball", "Ten-ball", { money: "10" }),
  pool("eight-ball", "Eight-ball", { money: "8" }),
  pool("blackball", "Blackball", {
    visit: "visit",
    best: "best visit",
    scratch: "in-off",
    money: "black",
    pockets: BAULK_POCKETS,
    sorts: ["red", "yellow"],
    rack: "frame",
    race: "frames",
  }),
  pool("straight-pool", "Straight pool", {
    best: "high run",
    fouls: [...POOL_FOULS, "breaking-foul"],
    race: "points",
  }),
  pool("snooker", "Snooker", {
    rack: "frame",
    visit: "visit",
    best: "highest break",
    scratch: "in-off",
    money: "black",
    pockets: BAULK_POCKETS,
    fouls: ["no-contact", "off-table", "double-hit", "push", "touching-ball", "moved-ball"],
    sorts: ["red"],
    race: "frames",
  }),
];

export const DISCIPLINES: readonly Discipline[] = ALL;

export function disciplineOf(name: string): Discipline {
  return ALL.find((one) => one.name === name) ?? (ALL[0] as Discipline);
}

export const SNOOKER_VALUES = ["red", "yellow", "green", "brown", "blue", "pink", "black"];

/** The balls that a digit names, best first; with Shift a pool ball from ten up. */
export function ballsOfKey(discipline: string, digit: number, shift: boolean, balls: string[]): string[] {
  if (discipline === "snooker") return ofSort(balls, SNOOKER_VALUES[digit - 1]);
  if (discipline === "blackball") return ofSort(balls, ["red", "yellow", "black"][digit - 1]);
  const number = shift || digit === 0 ? 10 + digit : digit;
  return balls.filter((ball) => ball === String(number));
}

export function ofSort(balls: string[], sort: string | undefined): string[] {
  return balls.filter((ball) => sort !== undefined && (ball === sort || ball.startsWith(`${sort}-`)));
}

/** "red" for red-7; other balls are their own sort. */
export const sortOf = (ball: string) => ball.replace(/-\d+$/, "");

export const KEYS_OF_BALLS: Record<Name, [string, string][]> = {
  "nine-ball": [["1 – 9", "the ball that is meant"]],
  "ten-ball": [["1 – 9, 0", "the ball that is meant (0: the ten)"]],
  "eight-ball": [["1 – 9, 0", "the ball that is meant; with Shift from ten up"]],
  "straight-pool": [["1 – 9, 0", "the ball that is meant; with Shift from ten up"]],
  blackball: [["1, 2, 3", "red, yellow, black; again: the next of them"]],
  snooker: [["1 – 7", "the ball that is meant, by its value; 1 again: the next red"]],
};

/** Names of the choices that are made without a stroke, as the player who makes them would say it. */
export function choiceWords(
  choice: string,
  discipline: string,
  phaseChoices: string[],
  other: string,
): string {
  if (choice.startsWith("free-ball:")) return `free ball: the ${choice.slice("free-ball:".length)}`;
  switch (choice) {
    case "accept":
      return discipline === "snooker" ? "plays on" : "takes the table as it is";
    case "pass-back":
      return `hands it back to ${other}`;
    case "re-rack":
      return "breaks a new rack";
    case "re-break":
      return phaseChoices.includes("re-rack") || discipline === "straight-pool"
        ? `has ${other} break again`
        : "breaks again";
    case "play-again":
      return `has ${other} play again`;
    default:
      return choice;
  }
}
