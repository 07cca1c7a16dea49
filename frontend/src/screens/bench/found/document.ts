/** Found shots as entries of the log. */
import type { Change, FoundShot, Game, Places, SeenBall, ShotDocument } from "../../../api/types";
import { newShot, shotChange } from "../changes";

export const placesOf = (balls: SeenBall[]): Places =>
  Object.fromEntries(balls.map((one) => [one.ball, one.place]));

export const doubtsOf = (balls: SeenBall[]): string[] =>
  balls.filter((one) => one.doubtful).map((one) => one.ball);

const layout = (balls: SeenBall[]) => ({
  balls: placesOf(balls),
  sigma: Object.fromEntries(balls.map((one) => [one.ball, one.sigma])),
});

/** What was seen of a shot; what was meant is the coach's to say. */
export function documentOf(shot: FoundShot, recording: number, opening: boolean): ShotDocument {
  const stayed = new Set(shot.after.map((one) => one.ball));
  const fell = shot.before.map((one) => one.ball).filter((ball) => !stayed.has(ball));
  const objects = fell.filter((ball) => ball !== "cue");
  return {
    recording,
    time: { start: shot.start, contact: shot.contact, still: shot.still },
    seen: true,
    ...(opening ? { kind: "break" } : {}),
    layout_before: layout(shot.before),
    layout_after: layout(shot.after),
    ...(objects.length ? { potted: objects.map((ball) => ({ ball })) } : {}),
    ...(fell.includes("cue") ? { scratch: true } : {}),
  };
}

/** The changes that log these shots, in order; a new rack begins where balls were racked anew. */
export function changesFor(game: Game, shots: FoundShot[], recording: number): Change[] {
  const fresh = shots.filter((one) => one.kind === "shot" && !isLogged(game, recording, one));
  const last = game.racks.at(-1);
  const open = last && !last.over ? last : null;
  const changes: Change[] = [];
  let parent: string | null = null;
  let seat = 0;
  let rack: number | null = null;
  for (const one of fresh) {
    const begins = rack !== null && one.rack !== rack;
    if (parent === null) {
      const first = newShot(game, open, documentOf(one, recording, open === null || open.shots.length === 0));
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
      changes.push(shotChange(crypto.randomUUID(), parent, seat, documentOf(one, recording, begins)));
      seat += 1;
    }
    rack = one.rack;
  }
  return changes;
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
