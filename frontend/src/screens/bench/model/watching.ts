/** Watching a match without its waiting: which stretches are played, and how fast. */
import type { Game } from "../../../api/types";

export interface Leg {
  shot: string;
  start: number;
  contact: number | null;
  still: number;
}

export const HALT = 3; // seconds at each still picture
const RUN_UP = 2; // seconds before the contact at which the picture goes on: what lies between is waiting
const ROLLING = 6; // seconds after the contact (or the still picture) where no standstill is marked
const STILL = 0.7; // seconds after the standstill, for the eye
const SLOW = 0.25; // times, round the contact
const BEFORE = 0.35; // seconds before and after the contact that are slow
const AFTER = 0.6;

/** The shots with a moment in this recording, in their order. */
export function legsOf(game: Game, recording: number): Leg[] {
  return game.racks
    .flatMap((rack) => rack.shots)
    .flatMap(({ id, document }) => {
      const { start, contact, still } = document.time ?? {};
      if (start == null || (document.recording ?? 0) !== recording) return [];
      return [{ shot: id, start, contact: contact ?? null, still: still ?? (contact ?? start) + ROLLING }];
    });
}

/** Where the picture goes on after the halt. */
export const goesOn = ({ start, contact }: Leg) =>
  contact === null ? start : Math.max(start, contact - RUN_UP);

export const ends = ({ still }: Leg) => still + STILL;

export function paceAt({ contact }: Leg, time: number): number {
  if (contact === null) return 1;
  return time > contact - BEFORE && time < contact + AFTER ? SLOW : 1;
}
