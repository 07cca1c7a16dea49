import { expect, it } from "vitest";

import { withChanges } from "./optimistic";
import type { Change, Game } from "./types";

const shot = (id: string, seat: number, document: object | null): Change => ({
  kind: "shot",
  id,
  parent: "r1",
  seat,
  document: document as Change["document"],
});

const game = {
  id: "g",
  header: { discipline: "nine-ball", title: "old" },
  racks: [
    {
      id: "r1",
      seat: 0,
      document: {},
      next_up: { player: "A" },
      shots: [{ id: "s1", seat: 0, document: { note: "one" }, ruling: {}, before: null, after: null }],
    },
  ],
} as unknown as Game;

it("shows a new shot, an edited one and a removed one before the server has answered", () => {
  const after = { balls: { cue: [1, 1] } };
  const next = withChanges(game, [
    shot("s2", 1, { player: "A", layout_after: after }),
    shot("s1", 0, { note: "two" }),
  ]);
  expect(next.racks[0]?.shots.map((one) => one.document.note)).toEqual(["two", undefined]);
  expect(next.racks[0]?.next_up?.before?.balls).toEqual({ cue: [1, 1] });
  expect(withChanges(next, [shot("s1", 0, null)]).racks[0]?.shots.map((one) => one.id)).toEqual(["s2"]);
  expect(game.racks[0]?.shots).toHaveLength(1);
});

it("shows a new rack in its seat and a changed header", () => {
  const rack: Change = { kind: "rack", id: "r0", parent: "g", seat: -1, document: { breaker: "B" } };
  const header: Change = {
    kind: "match",
    id: "g",
    parent: "g",
    seat: 0,
    document: { discipline: "nine-ball", title: "new" },
  };
  const next = withChanges(game, [rack, header]);
  expect(next.racks.map((one) => one.id)).toEqual(["r0", "r1"]);
  expect(next.header.title).toBe("new");
});
