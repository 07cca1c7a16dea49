/** What the disciplines call things, and which keys name their balls; the facts are the server's own. */
import { trade } from "../trade";

export const DISCIPLINES = trade.disciplines;
export type Discipline = (typeof DISCIPLINES)[number];
/** The object balls of each game. */
export const BALLS: Record<string, string[]> = Object.fromEntries(
  DISCIPLINES.map((one) => [one.name, [...one.balls]]),
);

export type Name = Discipline["name"];

export const disciplineOf = (name: string): Discipline =>
  DISCIPLINES.find((one) => one.name === name) ?? DISCIPLINES[0];

/** The balls that a digit names, best first; with Shift a pool ball from ten up. */
export function ballsOfKey(discipline: string, digit: number, shift: boolean, balls: string[]): string[] {
  const { digits } = disciplineOf(discipline);
  if (digits.length) return ofSort(balls, digits[digit - 1]);
  const number = shift || digit === 0 ? 10 + digit : digit;
  return balls.filter((ball) => ball === String(number));
}

export function ofSort(balls: string[], sort: string | undefined): string[] {
  return balls.filter((ball) => sort !== undefined && (ball === sort || ball.startsWith(`${sort}-`)));
}

/** "red" for red-7; other balls are their own sort. */
export const sortOf = (ball: string) => ball.replace(/-\d+$/, "");

/** Names of the choices that are made without a stroke, as the player who makes them would say it. */
export function choiceWords(
  choice: string,
  discipline: string,
  phaseChoices: string[],
  other: string,
): string {
  if (choice.startsWith("free-ball:")) return `free ball: the ${choice.slice("free-ball:".length)}`;
  const { accepts, goes_on } = disciplineOf(discipline);
  switch (choice) {
    case "accept":
      return accepts;
    case "pass-back":
      return `hands it back to ${other}`;
    case "re-rack":
      return "breaks a new rack";
    case "re-break":
      return phaseChoices.includes("re-rack") || goes_on ? `has ${other} break again` : "breaks again";
    case "play-again":
      return `has ${other} play again`;
    default:
      return choice;
  }
}
