/** How balls look: the trade's standard set, quiet enough for a plan. Every ball carries its number too. */
import drawing from "../../../src/aretane/draw/look.json";

const { hues, light, unknown, white } = drawing.ball;
const HUES: Record<string, string> = hues;

/** Snooker's colours carry their value, so that none is told by its colour alone. */
const VALUES: Record<string, string> = {
  yellow: "2",
  green: "3",
  brown: "4",
  blue: "5",
  pink: "6",
  black: "7",
};

export interface BallLook {
  fill: string;
  striped: boolean;
  label: string;
  dark: boolean;
}

export function ballLook(ball: string, valued = false): BallLook {
  if (ball === "cue") return { fill: white, striped: false, label: "", dark: false };
  const number = Number(ball);
  if (Number.isInteger(number)) {
    const fill = HUES[String(number > 8 ? number - 8 : number)] ?? unknown;
    const striped = number > 8;
    return { fill, striped, label: ball, dark: !striped && !light.includes(ball) };
  }
  const colour = ball.split("-")[0] ?? ball;
  const label = ball.includes("-") ? (colour === "yellow" ? "Y" : "") : valued ? (VALUES[ball] ?? "") : "";
  return {
    fill: HUES[colour] ?? unknown,
    striped: false,
    label,
    dark: !light.includes(colour),
  };
}

export const ballName = (ball: string) =>
  ball === "cue" ? "cue ball" : /^\d+$/.test(ball) ? `${ball} ball` : ball.replace("-", " ");
