/** Found shots as entries of the log. */
import type { Change, FoundShot, Game, Place, Places, SeenBall, ShotDocument } from "../../../api/types";
import type { Shape } from "../../../table/shapes";
import { newShot, seatBetween, shotChange } from "../model/changes";

export const placesOf = (balls: SeenBall[]): Places =>
  Object.fromEntries(balls.map((one) => [one.ball, one.place]));

export const doubtsOf = (balls: SeenBall[]): string[] =>
  balls.filter((one) => one.doubtful).map((one) => one.ball);

/** The changes that log these shots as these entries, in order; a new rack begins where balls were racked anew. One
 * that lies between logged ones is put there. */
export function changesFor(game: Game, taken: Taken[], recording: number): Change[] {
  const fresh = taken.filter(({ shot }) => shot.kind === "shot" && !isLogged(game, recording, shot));
  const [only] = fresh;
  const place = only && fresh.length === 1 ? placeBetween(game, recording, only.shot) : null;
  if (only && place)
    return [
      shotChange(crypto.randomUUID(), place.rack.id, seatBetween(place.rack, place.before), only.document),
    ];
  const last = game.racks.at(-1);
  const open = last && !last.over ? last : null;
  const changes: Change[] = [];
  let parent: string | null = null;
  let seat = 0;
  let rack: number | null = null;
  for (const { shot: one, document } of fresh) {
    const begins = rack !== null && one.rack !== rack;
    if (parent === null) {
      const first = newShot(game, open, document);
      changes.push(...first);
      const shot = first.at(-1);
      parent = shot?.parent ?? "";
      seat = (shot?.seat ?? 0) + 1;
    } else {
      if (begins) {
        parent = crypto.randomUUID();
        const rackSeat = (game.racks.at(-1)?.seat ?? -1) + 1 + changes.length;
        changes.push({ kind: "rack", id: parent, parent: game.id, seat: rackSeat, document: {} });
        seat = 0;
      }
      changes.push(shotChange(crypto.randomUUID(), parent, seat, document));
      seat += 1;
    }
    rack = one.rack;
  }
  return changes;
}

export interface Taken {
  shot: FoundShot;
  document: ShotDocument;
}

/** Between which entries a shot lies that was found before one that is logged. */
function placeBetween(game: Game, recording: number, shot: FoundShot) {
  for (const rack of game.racks)
    for (const before of rack.shots) {
      const contact = before.document.time?.contact;
      if (contact != null && (before.document.recording ?? 0) === recording && contact > shot.contact)
        return { rack, before };
    }
  return null;
}

const SAME = 1.2; // seconds between a contact that was marked and one that was found

/** Whether this shot is in the log already, by the time of its contact. */
export function isLogged(game: Game, recording: number, shot: FoundShot): boolean {
  return game.racks
    .flatMap((rack) => rack.shots)
    .some(({ document }) => {
      const contact = document.time?.contact;
      return (
        contact != null && (document.recording ?? 0) === recording && Math.abs(contact - shot.contact) < SAME
      );
    });
}

/** The balls' ways as they were followed in the picture. */
export const waysOf = (shot: FoundShot): Shape[] =>
  shot.paths.map(({ ball, points }) => ({
    line: ball === "cue" ? "cue-path" : "ball-path",
    points: points.map(([, x, y]): Place => [x, y]),
  }));
