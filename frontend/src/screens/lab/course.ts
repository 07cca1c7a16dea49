/** A simulated shot drawn: where each ball runs, and where it is at a moment. */
import type { Leg, Place, Places, ShotEvent, Simulated, Table } from "../../api/types";
import { ring, type Shape } from "../../table/shapes";

const BENDS = 10; // points on a curved leg

export function placeIn(leg: Leg, t: number): Place {
  const s = Math.max(0, t - leg.t);
  const at = (axis: 0 | 1) => leg.place[axis] + leg.velocity[axis] * s + (leg.acceleration[axis] * s * s) / 2;
  return [at(0), at(1)];
}

/** Where the balls are at time t; those that have left the table by then are missing. */
export function placesAt(balls: Places, shot: Simulated, t: number): Places {
  const places: Places = { ...balls };
  for (const [ball, legs] of Object.entries(shot.legs)) {
    const leg = legs.findLast((one) => one.t <= t) ?? legs[0];
    if (!leg) continue;
    if (leg.phase === "potted" || leg.phase === "off") places[ball] = undefined as never;
    else places[ball] = placeIn(leg, Math.min(t, shot.shot.duration));
  }
  return Object.fromEntries(Object.entries(places).filter(([, place]) => place as Place | undefined));
}

function path(legs: Leg[], end: number): Place[] {
  return legs.flatMap((leg, index) => {
    const until = legs[index + 1]?.t ?? end;
    const steps = leg.phase === "slide" ? BENDS : 1;
    const points = Array.from({ length: steps }, (_, step) =>
      placeIn(leg, leg.t + ((until - leg.t) * step) / steps),
    );
    return index === legs.length - 1 ? [...points, placeIn(leg, until)] : points;
  });
}

/** The paths, the cue ball where it touches its first ball, and a mark at each rail. */
export function courseShapes(shot: Simulated, table: Table): Shape[] {
  const shapes: Shape[] = Object.entries(shot.legs).map(([ball, legs]) => ({
    line: ball === "cue" ? "cue-path" : "ball-path",
    points: path(legs, shot.shot.duration),
  }));
  for (const event of shot.shot.events) {
    if (event.kind === "contact" && event.balls.includes("cue") && event.balls[0] === "cue")
      shapes.push({ line: "contact", points: ring(event.place, table.cue_radius), closed: true });
    if (event.kind === "rail")
      shapes.push({ line: "contact", points: ring(event.place, 0.012, 8), closed: true });
  }
  return shapes;
}

/** The cue ball's way in words: "3, left rail, foot rail, stops". */
export function cueWay(events: ShotEvent[]): string[] {
  const words: string[] = [];
  for (const event of events) {
    if (!event.balls.includes("cue")) continue;
    if (event.kind === "contact") words.push(`ball ${event.balls.find((ball) => ball !== "cue") ?? ""}`);
    else if (event.kind === "rail") words.push(`${event.rail} rail`);
    else if (event.kind === "jaw") words.push(`jaw ${(event.pocket ?? "").replace("-", " ")}`);
    else if (event.kind === "pocket") words.push(`falls in ${(event.pocket ?? "").replace("-", " ")}`);
    else if (event.kind === "landing") words.push("lands");
    else if (event.kind === "off-table") words.push("leaves the table");
    else if (event.kind === "stop") words.push("stops");
  }
  return words.filter((word, index) => word !== words[index - 1]);
}
