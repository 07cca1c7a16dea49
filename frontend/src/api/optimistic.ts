/** A match as it will be once changes are acknowledged: enough to go on with while the server is away. */
import type { Change, Game, Places, Rack, Shot } from "./types";

export function withChanges(game: Game, changes: Change[]): Game {
  return changes.reduce(withChange, game);
}

function withChange(game: Game, change: Change): Game {
  if (change.kind === "match")
    return change.document ? { ...game, header: change.document as Game["header"] } : game;
  if (change.kind === "rack") return { ...game, racks: inSeat(withRack(game.racks, change)) };
  return {
    ...game,
    racks: game.racks.map((rack) => (rack.id === change.parent ? withShot(rack, change) : rack)),
  };
}

function withRack(racks: Rack[], change: Change): Rack[] {
  const others = racks.filter((rack) => rack.id !== change.id);
  if (!change.document) return others;
  const document = change.document as Rack["document"];
  const known = racks.find((rack) => rack.id === change.id);
  const breaker = document.breaker ?? "A";
  const fresh: Rack = {
    id: change.id,
    seat: change.seat,
    document,
    breaker,
    winner: null,
    score: { A: 0, B: 0 },
    sets: { A: 0, B: 0 },
    over: false,
    next_up: {
      player: breaker,
      in_hand: "behind-line",
      choices: [],
      legal_balls: [],
      phase: "break",
      balls: [],
      free_shot: false,
      visits: 1,
      board: UNKNOWN_BOARD,
      state: null,
      before: null,
    },
    shots: [],
  };
  return [...others, known ? { ...known, document, seat: change.seat } : fresh];
}

/** What the scoreboard shows until the server has said how things stand. */
const UNKNOWN_BOARD: NonNullable<Shot["board"]> = {
  on: "…",
  run: 0,
  left: 0,
  unit: "balls",
  points: { A: 0, B: 0 },
  fouls: { A: 0, B: 0 },
  group: { A: null, B: null },
  needs: { A: null, B: null },
  snookers: { A: 0, B: 0 },
  run_word: "run",
  left_words: "…",
  says: {},
};

function withShot(rack: Rack, change: Change): Rack {
  const others = rack.shots.filter((shot) => shot.id !== change.id);
  if (!change.document) return { ...rack, shots: others };
  const document = change.document as Shot["document"];
  const known = rack.shots.find((shot) => shot.id === change.id);
  const player = document.player ?? "A";
  const layout = (balls: Places | undefined) => (balls ? { balls, player, ball_in_hand: null } : null);
  const after = layout(document.layout_after?.balls);
  const shot: Shot = {
    id: change.id,
    seat: change.seat,
    document,
    person: known?.person ?? null,
    ruling: known?.ruling ?? null,
    board: known?.board ?? null,
    state: known?.state ?? null,
    before: layout(document.layout_before?.balls) ?? known?.before ?? null,
    after: after ?? known?.after ?? null,
    leaves: known?.leaves ?? null,
    result: document.result ?? known?.result ?? (document.potted?.length ? "made" : null),
    error: known?.error ?? null,
    object_errors: known?.object_errors ?? {},
  };
  const shots = inSeat([...others, shot]);
  const last = shots[shots.length - 1] === shot;
  return {
    ...rack,
    shots,
    next_up:
      last && rack.next_up ? { ...rack.next_up, before: after, choices: [], phase: "play" } : rack.next_up,
  };
}

function inSeat<T extends { seat: number }>(items: T[]): T[] {
  return [...items].sort((one, other) => one.seat - other.seat);
}
