import { describe, expect, it } from "vitest";

import type { Game, Places, ShotDocument, ShotReading } from "../../api/types";
import { layoutAfter, meant, nextBreaker, upcoming, withBall, withResult, zoneAt, type Entry } from "./entry";

const before: Places = { cue: [0.5, 0.5], "3": [1, 0.5], "9": [2, 0.5] };

const entry = (document: ShotDocument = {}, after: Places = {}): Entry => ({
  shot: null,
  rack: null,
  document: { kind: "pot", ...document },
  before,
  after,
  legal: ["3"],
});

const reading = (pocket: string, cut: number | null, more: Partial<ShotReading> = {}) =>
  ({
    ball: "3", pocket, cut_angle_deg: cut, open: 1, cue_distance: 0.5, pocket_distance: 1, blocked_cue: [], ...more,
  }) as unknown as ShotReading; // prettier-ignore

function game(more: Partial<Game> = {}): Game {
  return {
    id: "g", last_change: 1, header: { discipline: "nine-ball", rules: { breaks: "winner" } },
    table: {} as Game["table"], balls: ["cue", "1", "2", "3", "9"], score: { A: 0, B: 0 }, winner: null,
    racks: [], trouble: [], ...more,
  } as Game; // prettier-ignore
}

const rack = (more: object) =>
  ({
    id: "r",
    seat: 0,
    document: {},
    breaker: "A",
    winner: null,
    score: {},
    next_up: null,
    shots: [],
    ...more,
  }) as unknown as Game["racks"][number];

describe("what is offered", () => {
  it("begins with a break by whoever has it", () => {
    const { document } = upcoming(
      game({ header: { discipline: "nine-ball", start: { breaker: "B" } } }),
      undefined,
    );
    expect(document).toMatchObject({ kind: "break", player: "B" });
  });

  it("carries the balls and the player over from the shot before", () => {
    const up = {
      player: "B",
      in_hand: null,
      choices: [],
      legal_balls: ["3"],
      phase: "play",
      before: { balls: before },
    };
    const next = upcoming(game({ racks: [rack({ next_up: up })] }), undefined);
    expect(next.document).toMatchObject({ player: "B", kind: "pot" });
    expect(next.before).toEqual(before);
    expect(next.legal).toEqual(["3"]);
  });

  it("keeps what has been entered already", () => {
    expect(upcoming(game(), { note: "half written" }).document.note).toBe("half written");
  });

  it("starts in the middle of a rack when the recording does", () => {
    const header = {
      discipline: "nine-ball" as const,
      start: { player: "B" as const, layout: { state: {} } },
    };
    expect(upcoming(game({ header }), undefined).document).toMatchObject({ kind: "pot", player: "B" });
  });

  it("is the lowest ball into the pocket most players would take", () => {
    const readings = [
      reading("foot-left", 60),
      reading("side-left", 20),
      reading("head-left", null),
      reading("foot-right", 5, { blocked_cue: ["9"] }),
    ];
    expect(meant(entry(), readings)).toEqual({ ball: "3", pocket: "side-left", offered: true });
    expect(meant(entry({ called: { ball: "3", pocket: "foot-left" } }), readings)?.offered).toBe(false);
    expect(meant(entry({ kind: "break" }), readings)).toBeNull();
  });

  it.each([
    ["winner", "B"],
    ["loser", "A"],
    ["alternate", "B"],
  ])("the next break goes to the %s", (breaks, player) => {
    const racks = [rack({ winner: "B", breaker: "A" })];
    expect(nextBreaker(game({ racks, header: { discipline: "nine-ball", rules: { breaks } } }))).toBe(player);
  });
});

describe("a result key", () => {
  const target = { ball: "3", pocket: "foot-left", offered: true };

  it("made: the ball falls, and waits for the cue ball", () => {
    const made = withResult(entry(), "made", target);
    expect(made.potted).toEqual([{ ball: "3", pocket: "foot-left" }]);
    expect(made.called).toEqual({ ball: "3", pocket: "foot-left" });
    expect(made.layout_after?.balls).toEqual({ "9": [2, 0.5] });
  });

  it("made by a combination: the ball that falls was not hit first", () => {
    const made = withResult(entry({ kind: "combination" }), "made", { ball: "9", pocket: "foot-left" });
    expect(made.potted).toEqual([{ ball: "9", pocket: "foot-left" }]);
    expect(made.first_contact).toBeUndefined();
    expect(withResult(entry(), "made", target).first_contact).toBe("3");
  });

  it("missed: nothing falls", () => {
    const missed = withResult(entry(), "missed-thick", target);
    expect(missed.potted).toEqual([]);
    expect(missed.result).toBe("missed-thick");
    expect(missed.layout_after?.balls).toEqual({ "3": [1, 0.5], "9": [2, 0.5] });
  });

  it("no pot meant: nothing is called", () => {
    expect(withResult(entry({ called: { ball: "3" } }), "played", target).called).toBeUndefined();
  });

  it("after a break the balls lie anywhere until they are placed", () => {
    expect(withResult(entry({ kind: "break" }), "played", null).layout_after).toBeUndefined();
  });

  it("a placed cue ball stays placed, unless it was lost", () => {
    const after: Places = { cue: [0.7, 0.7], "9": [2, 0.5] };
    expect(layoutAfter(entry({}, after), ["3"], false)["cue"]).toEqual([0.7, 0.7]);
    expect(layoutAfter(entry({}, after), ["3"], true)["cue"]).toBeUndefined();
  });
});

it("a placed ball carries how well its place is known", () => {
  const document = withBall({}, "layout_after", before, "3", [1.1, 0.6], 0.0041234);
  expect(document.layout_after?.balls?.["3"]).toEqual([1.1, 0.6]);
  expect(document.layout_after?.sigma).toEqual({ "3": 0.00412 });
  const again = withBall(document, "layout_after", before, "3", [1.2, 0.6], null);
  expect(again.layout_after?.sigma).toEqual({});
  expect(
    withBall(document, "layout_after", before, "3", null, null).layout_after?.balls?.["3"],
  ).toBeUndefined();
});

it("a zone is ideal within half its radius", () => {
  expect(zoneAt([1, 1], 0.2).map((zone) => [zone.grade, zone.radius])).toEqual([
    ["ideal", 0.1],
    ["acceptable", 0.2],
  ]);
});
