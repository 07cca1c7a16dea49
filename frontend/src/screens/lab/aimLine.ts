/** Where a pot is aimed: the ghost ball's centre, the contact point, and how far each lies beside the ball's middle. */
import type { Place } from "../../api/types";

export interface AimLine {
  ghost: Place;
  contact: Place;
  /** Where the aim line passes the object ball: the nearest point of it to the ball's centre. */
  passes: Place;
  /** Metres beside the ball's middle, as seen along the aim line: of the contact point and of the line itself. */
  contactAside: number;
  aimAside: number;
  /** The part of the ball that is covered, 1 full. */
  fullness: number;
  side: "left" | "right" | "middle";
}

const STRAIGHT = 0.0005; // metres beside the middle that nobody sees

/** Plain geometry (ghost ball), without throw or squirt; null where the ball cannot be cut there. */
export function aimLine(cue: Place, ball: Place, mouth: Place, radius: number, own: number): AimLine | null {
  const [px, py] = unit(ball, mouth);
  const reach = radius + own;
  const ghost: Place = [ball[0] - reach * px, ball[1] - reach * py];
  const [ax, ay] = unit(cue, ghost);
  if (ax * px + ay * py <= 0) return null; // more than a right angle
  const aside = ax * (ball[1] - ghost[1]) - ay * (ball[0] - ghost[0]); // the ball lies left of the line where above 0
  const along = ax * (ball[0] - ghost[0]) + ay * (ball[1] - ghost[1]);
  return {
    ghost,
    contact: [ball[0] - radius * px, ball[1] - radius * py],
    passes: [ghost[0] + along * ax, ghost[1] + along * ay],
    contactAside: (Math.abs(aside) * radius) / reach,
    aimAside: Math.abs(aside),
    fullness: Math.max(0, 1 - Math.abs(aside) / reach),
    side: Math.abs(aside) < STRAIGHT ? "middle" : aside > 0 ? "right" : "left",
  };
}

function unit(from: Place, to: Place): Place {
  const [x, y] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.hypot(x, y);
  return [x / length, y / length];
}
