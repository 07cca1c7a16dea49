/** The entry on the bench: what a shot document says, what is offered, and how keys change it. */
import { disciplineOf, ofSort } from "../../../games/discipline";
import type { ResultId } from "../../../words";
import type {
  FoundShot,
  Game,
  Place,
  Places,
  Pocket,
  Rack,
  Shot,
  ShotDocument,
  MeasuredShot,
} from "../../../api/types";

export interface Entry {
  /** The logged shot, or null for the one being entered. */
  shot: Shot | null;
  /** The shot found in the recording that is being entered. */
  found: FoundShot | null;
  /** Under which name the draft is kept. */
  key: string;
  /** Fields that the evidence leaves open. */
  open: string[];
  rack: Rack | null;
  document: ShotDocument;
  before: Places;
  after: Places;
  legal: string[];
  /** What the entry being made starts from; null for a logged one, or before a further rack begins. */
  up: Rack["next_up"];
  /** The object balls that the rules still have on the table. */
  standing: string[];
}

/** The entry for a logged shot. */
export function logged(rack: Rack, shot: Shot): Entry {
  return {
    shot,
    found: null,
    key: shot.id,
    open: [],
    rack,
    document: shot.document,
    before: shot.document.layout_before?.balls ?? shot.before?.balls ?? {},
    after: shot.document.layout_after?.balls ?? shot.after?.balls ?? {},
    legal: shot.ruling?.legal_balls ?? [],
    up: null,
    standing: standingAt(rack, shot),
  };
}

/** What became of it: as it was said, else as the referee's facts have it. */
export const resultOf = (entry: Entry): string | null => entry.document.result ?? entry.shot?.result ?? null;

/** What was on the table before a logged shot: everything that did not fall earlier, or that came back. */
function standingAt(rack: Rack, shot: Shot): string[] {
  const known = Object.keys(shot.before?.balls ?? {}).filter((ball) => ball !== "cue");
  if (known.length) return known;
  const mentioned = [...(shot.document.potted ?? []).map((one) => one.ball), shot.document.called?.ball];
  const legal = shot.ruling?.legal_balls ?? rack.next_up?.balls ?? [];
  return [...new Set([...legal, ...mentioned.filter((ball) => ball !== undefined)])];
}

/** A shot found in the recording: what is proposed, and over it what the coach has said. */
export function fromFound(game: Game, found: FoundShot, draft: ShotDocument | undefined): Entry {
  const next = upcoming(game, undefined);
  const proposal = found.proposal;
  const document = draft ?? proposal?.document ?? {};
  const said = new Set(Object.keys(document).filter((key) => !document.inferred?.includes(key)));
  return {
    ...next,
    found,
    key: foundKey(game.id, found.id),
    open: (proposal?.open ?? []).filter((field) => !said.has(field)),
    document,
    before: document.layout_before?.balls ?? {},
    after: document.layout_after?.balls ?? {},
    standing: Object.keys(document.layout_before?.balls ?? {}).filter((ball) => ball !== "cue"),
  };
}

export const foundKey = (game: string, found: string) => `${game}/${found}`;

/** A forgotten shot, in the place before one that is logged. */
export function inserted(game: Game, rack: Rack, before: Shot, draft: ShotDocument | undefined): Entry {
  const document: ShotDocument = {
    player: before.document.player,
    kind: "pot",
    intent: "attack",
    intent_source: "inferred",
    ...draft,
  };
  return {
    shot: null,
    found: null,
    key: `${game.id}/before/${before.id}`,
    open: [],
    rack,
    document,
    before: document.layout_before?.balls ?? before.before?.balls ?? {},
    after:
      document.layout_after?.balls ??
      restOf(document.layout_before?.balls ?? before.before?.balls ?? {}, document),
    legal: before.ruling?.legal_balls ?? [],
    up: null,
    standing: standingAt(rack, before),
  };
}

/** The entry that comes next, with what is known carried over and the usual thing offered. */
export function upcoming(game: Game, draft: ShotDocument | undefined): Entry {
  const last = game.racks[game.racks.length - 1];
  const rack = last && !last.over ? last : null;
  const up = rack?.next_up ?? (game.racks.length === 0 ? game.opening : null);
  const breaks = !up || up.phase === "break";
  const carried = up?.before?.balls ?? (rack?.shots.length ? {} : (game.fresh?.balls ?? {}));
  const offered: ShotDocument = {
    player: up?.player ?? game.next_breaker,
    kind: breaks ? "break" : "pot",
    intent: "attack",
    intent_source: "inferred",
  };
  const document = { ...offered, ...draft };
  const before = document.layout_before?.balls ?? carried;
  return {
    shot: null,
    found: null,
    key: game.id,
    open: [],
    rack,
    document,
    before,
    after: document.layout_after?.balls ?? restOf(before, document),
    legal: up?.legal_balls.length ? up.legal_balls : atTheBreak(game, before),
    up,
    standing: up?.balls ?? game.balls.filter((ball) => ball !== "cue"),
  };
}

/** Where the game says what the break must hit first, that; elsewhere any ball will do. */
function atTheBreak(game: Game, before: Places): string[] {
  const placed = Object.keys(before).filter((ball) => ball !== "cue");
  const balls = placed.length ? placed : game.balls.filter((ball) => ball !== "cue");
  const { first } = disciplineOf(game.header.discipline);
  if (first === null) return balls;
  if (first !== "lowest") return ofSort(balls, first);
  return balls.sort((a, b) => Number(a) - Number(b)).slice(0, 1);
}

export interface Target {
  ball: string;
  pocket: Pocket | null;
  offered: boolean;
}

/** The ball and pocket that are meant, or that are offered until somebody says so. */
export function meant(game: Game, entry: Entry, readings: MeasuredShot[]): Target | null {
  const { called, kind } = entry.document;
  const usual = kind === "break" || entry.shot ? null : usualShot(game, entry, readings, called?.ball);
  const ball = called?.ball ?? usual?.ball;
  if (!ball) return entry.shot && kind !== "break" && entry.legal[0] ? nothingSaid(entry.legal[0]) : null;
  if (called?.pocket) return { ball, pocket: called.pocket, offered: false };
  return { ball, pocket: entry.shot ? null : (usual?.pocket ?? null), offered: !entry.shot };
}

const nothingSaid = (ball: string): Target => ({ ball, pocket: null, offered: false });

/** What most players would do: the easiest lawful pot; without places the colour of before, else the first ball. */
function usualShot(
  game: Game,
  entry: Entry,
  readings: MeasuredShot[],
  said: string | undefined,
): { ball: string; pocket: Pocket | null } | null {
  const free = freeBall(entry.document);
  const balls = said ? [said] : free ? [free] : ownFirst(game, entry);
  const open = readings.filter(
    (r) => balls.includes(r.ball) && r.cut_angle_deg !== null && r.open > 0.02 && r.blocked_cue.length === 0,
  );
  const cost = (r: MeasuredShot) =>
    (r.cut_angle_deg ?? 90) / 40 + (r.cue_distance ?? 3) + r.pocket_distance + 2 * (1 - r.open);
  const best = open.sort((one, other) => cost(one) - cost(other))[0];
  if (best) return { ball: best.ball, pocket: best.pocket };
  const ball = sameAgain(game, entry, balls) ?? balls[0];
  return ball ? { ball, pocket: null } : null;
}

/** On a free shot any ball may be struck, but a player's own are what he plays for. */
function ownFirst(game: Game, entry: Entry): string[] {
  const group = entry.up?.board.group[entry.document.player ?? "A"];
  if (!entry.up?.free_shot || !group) return entry.legal;
  const sort = disciplineOf(game.header.discipline).sorts.find((one) => group.startsWith(one));
  const own = ofSort(entry.legal, sort);
  return own.length ? own : entry.legal;
}

/** Where colours come back the one that this visit took last, else the black: a run is two keys a shot. */
function sameAgain(game: Game, entry: Entry, balls: string[]): string | undefined {
  const { returns, money } = disciplineOf(game.header.discipline);
  if (!returns.length || !money || !balls.includes(money)) return undefined;
  const before = entry.rack?.shots.flatMap((shot) => shot.document.potted ?? []) ?? [];
  const colour = before.findLast((fall) => returns.some((one) => one === fall.ball))?.ball;
  return colour && balls.includes(colour) ? colour : money;
}

export const freeBall = (document: ShotDocument): string | null =>
  document.declared?.startsWith("free-ball:") ? document.declared.slice("free-ball:".length) : null;

/** What still lies there after a shot of which something is said: all but what fell, and the cue ball. */
function restOf(before: Places, document: ShotDocument): Places {
  if (!document.result && !document.potted?.length && !document.scratch) return {};
  const gone = new Set([
    "cue",
    ...(document.potted ?? []).map((one) => one.ball),
    ...(document.off_table ?? []),
  ]);
  return Object.fromEntries(Object.entries(before).filter(([ball]) => !gone.has(ball)));
}

/** The balls after the shot as far as the result tells: potted ones gone, the cue ball to be placed. */
export function layoutAfter(entry: Entry, potted: string[], scratch: boolean): Places {
  const gone = new Set([...potted, ...(entry.document.off_table ?? [])]);
  const source = Object.keys(entry.after).length ? { ...entry.before, ...entry.after } : entry.before;
  const left = Object.entries(source).filter(([ball]) => !gone.has(ball) && ball !== "cue");
  const cue = entry.after["cue"];
  return Object.fromEntries<Place>(scratch || !cue ? left : [["cue", cue], ...left]);
}

/** What a result key writes. */
export function withResult(
  entry: Entry,
  result: ResultId,
  target: Pick<Target, "ball" | "pocket"> | null,
): ShotDocument {
  const pocket = target?.pocket ?? null;
  const aimed = target ? { ball: target.ball, pocket } : null;
  const fell = entry.document.potted ?? [];
  const others = entry.found ? fell.filter((one) => one.ball !== aimed?.ball) : []; // the picture shows them gone
  const potted = result === "made" && aimed ? [aimed, ...others] : result === "fluke" ? fell : others;
  const document: ShotDocument = { ...entry.document, result, potted };
  if (result !== "played" && aimed && document.kind !== "break") document.called = aimed;
  if (result === "played") delete document.called;
  // In a combination the ball that falls is not the one that is hit first.
  if (result === "made" && target && entry.legal.includes(target.ball))
    document.first_contact ??= target.ball;
  if (document.kind === "break" || entry.found) return document; // where it left the balls is placed on the next still picture
  const places = layoutAfter(
    entry,
    potted.map((p) => p.ball),
    Boolean(document.scratch),
  );
  return places["cue"] || document.scratch ? withAfter(document, places) : document; // else nobody knows yet
}

export function withAfter(document: ShotDocument, balls: Places): ShotDocument {
  if (Object.keys(balls).length === 0) return document;
  return { ...document, layout_after: { ...document.layout_after, balls } };
}

/** A layout of the document with a ball placed, and how well that place is known. */
export function withBall(
  document: ShotDocument,
  key: "layout_before" | "layout_after",
  balls: Places,
  ball: string,
  place: Place | null,
  sigma: number | null,
): ShotDocument {
  const others = Object.fromEntries(Object.entries(balls).filter(([name]) => name !== ball));
  const known = Object.fromEntries(
    Object.entries(document[key]?.sigma ?? {}).filter(([name]) => name !== ball),
  );
  return {
    ...document,
    [key]: {
      ...document[key],
      balls: place ? { ...others, [ball]: place } : others,
      sigma: place && sigma !== null ? { ...known, [ball]: Math.round(sigma * 1e5) / 1e5 } : known,
    },
  };
}

/** The ball to place next: before the shot all that the rules still have on the table, after it the cue ball. */
export function nextToPlace(entry: Entry, balls: Places, moment: "before" | "after"): string | null {
  if (moment === "after") return balls["cue"] ? null : "cue";
  return ["cue", ...entry.standing].find((ball) => !balls[ball]) ?? null;
}

export function pushOut(document: ShotDocument): Partial<ShotDocument> {
  if (document.declared === "push-out") return { declared: null, intent: "attack" };
  return {
    declared: "push-out",
    intent: "push-out",
    intent_source: "stated",
    kind: "other",
    potted: [],
    result: "played",
  };
}

/** A safety that the rules want called, in games that call. */
export function callSafety(document: ShotDocument): Partial<ShotDocument> {
  if (document.declared === "safety") return { declared: null, intent: "attack" };
  return { declared: "safety", intent: "safety", intent_source: "stated" };
}

export function hasFoul(document: ShotDocument, foul: string): boolean {
  if (foul === "no-contact") return document.first_contact === null;
  if (foul === "no-rail") return document.rails_after_contact === 0;
  if (foul === "off-table") return Boolean(document.off_table?.length);
  return document.fouls_seen?.some((one) => one === foul) ?? false;
}

/** The entry with something that somebody said: that is inferred no more. */
export function confirmed(document: ShotDocument, fields: string[]): ShotDocument {
  const inferred = document.inferred?.filter((field) => !fields.includes(field));
  if (!inferred) return document;
  const next = { ...document, inferred };
  if (!inferred.length) delete (next as ShotDocument).inferred;
  return next;
}

/** Everything that the sentence says; what the picture tells may still follow the picture. */
export const SEEN = ["layout_before", "layout_after", "time"];

export const agreed = (document: ShotDocument): ShotDocument =>
  confirmed(
    document,
    Object.keys(document).filter((field) => !SEEN.includes(field)),
  );

/** Which fields differ between two versions of an entry. */
export const changedFields = (one: ShotDocument, other: ShotDocument): string[] =>
  Object.keys({ ...one, ...other }).filter((key) => {
    const field = key as keyof ShotDocument;
    return JSON.stringify(one[field]) !== JSON.stringify(other[field]);
  });

/** Fouls are kept as what was seen: no contact, no rail, a ball off the table; the rest by name. */
export function withFoul(document: ShotDocument, foul: string, legal: string[]): Partial<ShotDocument> {
  const had = hasFoul(document, foul);
  if (foul === "no-contact") return { first_contact: had ? (legal[0] ?? null) : null };
  if (foul === "no-rail") return { rails_after_contact: had ? 1 : 0 };
  if (foul === "off-table") return { off_table: had ? [] : ["cue"] };
  const others = (document.fouls_seen ?? []).filter((one) => one !== foul);
  return { fouls_seen: had ? others : [...others, foul as "push"] };
}
