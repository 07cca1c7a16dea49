/** How balls look: the trade's standard set, quiet enough for a plan. Every ball carries its number too. */

const HUES: Record<string, string> = {
  "1": "#e0b132", "2": "#33588f", "3": "#b8402f", "4": "#5f4579", "5": "#cf7434", "6": "#3d7050", "7": "#7a3a3a", "8": "#2b2d30",
  red: "#b8402f", yellow: "#e0b132", green: "#3d7050", brown: "#7b5a3c", blue: "#33588f", pink: "#d793a0", black: "#2b2d30",
}; // prettier-ignore

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

export function look(ball: string, valued = false): BallLook {
  if (ball === "cue") return { fill: "#fffdf6", striped: false, label: "", dark: false };
  const number = Number(ball);
  if (Number.isInteger(number)) {
    const fill = HUES[String(number > 8 ? number - 8 : number)] ?? "#888888";
    const striped = number > 8;
    return { fill, striped, label: ball, dark: !striped && number !== 1 };
  }
  const colour = ball.split("-")[0] ?? ball;
  const label = ball.includes("-") ? (colour === "yellow" ? "Y" : "") : valued ? (VALUES[ball] ?? "") : "";
  return {
    fill: HUES[colour] ?? "#888888",
    striped: false,
    label,
    dark: !["yellow", "pink"].includes(colour),
  };
}

export const ballName = (ball: string) =>
  ball === "cue" ? "cue ball" : /^\d+$/.test(ball) ? `${ball} ball` : ball.replace("-", " ");
