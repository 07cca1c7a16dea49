/** What is written to the server, fact by fact. */
import type { Change, Game, Rack, ShotDocument } from "../../../api/types";

/** How the bench writes, takes back, and goes to another entry. */
export interface Writing {
  change: (label: string, changes: Change[]) => void;
  reverse: (direction: "undo" | "redo") => void;
  show: (where: { shot?: string; rack?: number }) => void;
  /** Leave for the verdict, at the shot that is looked at. */
  verdict: () => void;
  /** Make the shot an exercise. */
  practise: () => void;
}

export const shotChange = (
  id: string,
  parent: string,
  seat: number,
  document: ShotDocument | null,
): Change => ({ kind: "shot", id, parent, seat, document });

export const headerChange = (game: Game, patch: Partial<Game["header"]>): Change => ({
  kind: "match",
  id: game.id,
  parent: game.id,
  seat: 0,
  document: { ...game.header, ...patch },
});

export const rackChange = (game: Game, rack: Rack, patch: Partial<Rack["document"]>): Change => ({
  kind: "rack",
  id: rack.id,
  parent: game.id,
  seat: rack.seat,
  document: { ...rack.document, ...patch },
});

/** A new shot at the end of the open rack, or of a new one when that is over. */
export function newShot(game: Game, rack: Rack | null, document: ShotDocument): Change[] {
  if (rack) {
    const seat = (rack.shots.at(-1)?.seat ?? -1) + 1;
    return [shotChange(crypto.randomUUID(), rack.id, seat, document)];
  }
  const id = crypto.randomUUID();
  const seat = (game.racks.at(-1)?.seat ?? -1) + 1;
  return [
    { kind: "rack", id, parent: game.id, seat, document: { breaker: game.next_breaker } },
    shotChange(crypto.randomUUID(), id, 0, document),
  ];
}

/** A seat just before that of a shot. */
export function seatBetween(rack: Rack, before: Rack["shots"][number]): number {
  const earlier = rack.shots[rack.shots.indexOf(before) - 1];
  return earlier ? (earlier.seat + before.seat) / 2 : before.seat - 1;
}
