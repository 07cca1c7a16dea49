/** Sentences about the entry: what the rules allow now, and rulings with the players' names. */
import type { Game } from "../../../api/types";
import { disciplineOf, sortOf } from "../../../games/discipline";
import type { Entry } from "./entry";

/** What the rules allow now. */
export function allowedNow(entry: Entry, game: Game): string {
  const up = entry.up;
  const { first, rack } = disciplineOf(game.header.discipline);
  const player = entry.document.player ?? "A";
  if (!up || (up.phase === "break" && !entry.rack))
    return `${player} breaks ${rack} ${game.racks.length + 1}${atFirst(entry, first)}.`;
  if (up.choices.some((choice) => choice !== "push-out") && !onlyFreeBalls(up.choices))
    return `${player} has a choice; playing on takes the table as it lies.`;
  const said = [`${player} to shoot: ${up.board.on}${up.phase === "break" ? atFirst(entry, first) : ""}.`];
  if (up.in_hand === "anywhere") said.push("Cue ball in hand: place it anywhere.");
  if (up.in_hand === "behind-line" && up.phase !== "break") said.push("Cue ball in hand behind the line.");
  if (up.in_hand === "in-d") said.push("Cue ball from the D.");
  if (up.phase === "break" && up.in_hand === "behind-line") said.push("From behind the line.");
  if (up.free_shot) said.push("Free shot: any ball may be played.");
  if (up.visits > 1) said.push(`${up.visits} visits.`);
  if (up.choices.includes("push-out")) said.push("The push-out is allowed.");
  return said.join(" ");
}

function atFirst(entry: Entry, first: string | null): string {
  if (first === null) return "";
  if (first === "lowest") return `; the ${entry.legal[0] ?? "1"} must be hit first`;
  return `; a ${sortOf(entry.legal[0] ?? first)} must be hit first`;
}

const onlyFreeBalls = (choices: string[]) => choices.every((choice) => choice.startsWith("free-ball:"));

/** A sentence with the players' names for the seats A and B. */
export function named(why: string, names: Record<string, { name?: string }> | undefined): string {
  const said = why.replace(/\b[AB]\b/g, (seat) => names?.[seat]?.name ?? seat);
  return said.charAt(0).toUpperCase() + said.slice(1);
}
