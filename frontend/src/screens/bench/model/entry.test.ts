import { describe, expect, it } from "vitest";

import type { Game, Places, ShotDocument, MeasuredShot } from "../../../api/types";
import {
  agreed,
  callSafety,
  changedFields,
  confirmed,
  layoutAfter,
  meant,
  nextToPlace,
  upcoming,
  withBall,
  withResult,
  type Entry,
} from "./entry";
import { zoneAt } from "./zones";

const before: Places = { cue: [0.5, 0.5], "3": [1, 0.5], "9": [2, 0.5] };

const entry = (document: ShotDocument = {}, after: Places = {}): Entry => ({
  shot: null,
  found: null,
  key: "g",
  open: [],
  rack: null,
  document: { kind: "pot", ...document },
  before,
  after,
  legal: ["3"],
  up: null,
  standing: ["3", "9"],
});

const reading = (pocket: string, cut: number | null, more: Partial<MeasuredShot> = {}) =>
  ({
    ball: "3", pocket, cut_angle_deg: cut, open: 1, cue_distance: 0.5, pocket_distance: 1, blocked_cue: [], ...more,
  }) as unknown as MeasuredShot; // prettier-ignore

function game(more: Partial<Game> = {}): Game {
  return {
    id: "g", last_change: 1, header: { discipline: "nine-ball", rules: { breaks: "winner" } },
    table: {} as Game["table"], balls: ["cue", "1", "2", "3", "9"], score: { A: 0, B: 0 }, winner: null,
    next_breaker: "A", fresh: null, opening: null, rules: {}, racks: [], trouble: [], ...more,
  } as Game; // prettier-ignore
}

const rack = (more: object) =>
  ({
    id: "r",
    seat: 0,
    document: {},
    breaker: "A",
    winner: null,
    over: false,
    score: {},
    next_up: null,
    shots: [],
    ...more,
  }) as unknown as Game["racks"][number];

describe("what is offered", () => {
  it("begins with a break by whoever has it", () => {
    const { document } = upcoming(game({ next_breaker: "B" }), undefined);
    expect(document).toMatchObject({ kind: "break", player: "B" });
  });

  it("carries the balls and the player over from the shot before", () => {
    const up = {
      player: "B",
      in_hand: null,
      choices: [],
      legal_balls: ["3"],
      phase: "play",
      balls: ["3", "9"],
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
    const opening = { player: "B", phase: "play", legal_balls: ["3"], balls: ["3", "9"], choices: [] };
    const begun = game({ opening: opening as unknown as Game["opening"], next_breaker: "A" });
    expect(upcoming(begun, undefined).document).toMatchObject({
      kind: "pot",
      player: "B",
    });
  });

  it("is the lowest ball into the pocket most players would take", () => {
    const readings = [
      reading("foot-left", 60),
      reading("side-left", 20),
      reading("head-left", null),
      reading("foot-right", 5, { blocked_cue: ["9"] }),
    ];
    expect(meant(game(), entry(), readings)).toEqual({
      ball: "3",
      pocket: "side-left" as const,
      offered: true,
    });
    expect(meant(game(), entry({ called: { ball: "3", pocket: "foot-left" } }), readings)?.offered).toBe(
      false,
    );
    expect(meant(game(), entry({ kind: "break" }), readings)).toBeNull();
  });

  const snooker = (shots: object[] = []) =>
    game({
      header: { discipline: "snooker" },
      racks: [rack({ shots })],
    });
  const fell = (ball: string) => ({ document: { potted: [{ ball, pocket: null }] } });
  const colours = ["yellow", "green", "brown", "blue", "pink", "black"];

  it("is the black after the first red, then the colour that the visit took last", () => {
    const after = (...shots: object[]): Entry => ({
      ...entry(),
      legal: colours,
      rack: snooker(shots).racks[0] ?? null,
    });
    expect(meant(snooker(), after(fell("red-1")), [])?.ball).toBe("black");
    expect(meant(snooker(), after(fell("red-1"), fell("blue"), fell("red-2")), [])?.ball).toBe("blue");
  });

  it("is the easiest of all lawful balls where every one may be played", () => {
    const readings = [reading("foot-left", 60), { ...reading("foot-left", 5), ball: "9" }];
    expect(meant(game(), { ...entry(), legal: ["3", "9"] }, readings)?.ball).toBe("9");
  });

  it("is the nominated ball on a free ball", () => {
    expect(meant(snooker(), entry({ declared: "free-ball:pink" }), [])?.ball).toBe("pink");
  });

  it("breaks again by whoever the referee says", () => {
    const over = game({ racks: [rack({ over: true })], next_breaker: "B" });
    expect(upcoming(over, undefined).document).toMatchObject({ kind: "break", player: "B" });
  });
});

it("a called safety is said and taken back", () => {
  expect(callSafety({})).toMatchObject({ declared: "safety", intent: "safety" });
  expect(callSafety({ declared: "safety" })).toMatchObject({ declared: null, intent: "attack" });
});

it("the cue ball is placed first, then what the rules still have on the table", () => {
  expect(nextToPlace(entry(), {}, "before")).toBe("cue");
  expect(nextToPlace(entry(), { cue: [0, 0], "3": [1, 1] }, "before")).toBe("9");
  expect(nextToPlace(entry(), { cue: [0, 0], "3": [1, 1], "9": [2, 1] }, "before")).toBeNull();
  expect(nextToPlace(entry(), { "3": [1, 1] }, "after")).toBe("cue");
});

describe("a result key", () => {
  const target = { ball: "3", pocket: "foot-left" as const, offered: true };

  it("made: the ball falls; where the cue ball stopped stays unknown until somebody says so", () => {
    const made = withResult(entry(), "made", target);
    expect(made.potted).toEqual([{ ball: "3", pocket: "foot-left" }]);
    expect(made.called).toEqual({ ball: "3", pocket: "foot-left" });
    expect(made.layout_after).toBeUndefined();
    const placed = withResult(entry({}, { cue: [1.5, 0.4] }), "made", target);
    expect(placed.layout_after?.balls).toEqual({ cue: [1.5, 0.4], "9": [2, 0.5] });
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
    expect(missed.layout_after).toBeUndefined();
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

describe("what nobody confirmed", () => {
  const proposed: ShotDocument = {
    player: "A",
    result: "made",
    layout_before: { balls: before },
    inferred: ["player", "result", "layout_before"],
  };

  it("is confirmed by what is said of it, and by a nod, but for what the picture tells", () => {
    expect(confirmed(proposed, ["player"]).inferred).toEqual(["result", "layout_before"]);
    expect(agreed(proposed).inferred).toEqual(["layout_before"]);
    expect(confirmed({ inferred: ["player"] }, ["player"])).toEqual({});
    expect(changedFields(proposed, { ...proposed, player: "B" })).toEqual(["player"]);
  });

  it("a result put right in a found shot leaves what the picture shows", () => {
    const found = { ...entry(proposed, { cue: [1.5, 0.4], "9": [2, 0.5] }), found: {} as Entry["found"] };
    const missed = withResult(
      { ...found, document: { ...proposed, potted: [{ ball: "9" }] } },
      "missed-thin",
      {
        ball: "3",
        pocket: null,
      },
    );
    expect(missed.potted).toEqual([{ ball: "9" }]);
    expect(missed.layout_before).toEqual(proposed.layout_before);
  });
});
