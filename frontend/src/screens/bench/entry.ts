/** The entry on the bench: what a shot document says, what is offered, and how keys change it. */
import { rounded } from "../../table/snap";
import type { Game, Place, Places, Rack, Shot, ShotDocument, ShotReading } from "../../api/types";

export interface Entry {
  /** The logged shot, or null for the one being entered. */
  shot: Shot | null;
  rack: Rack | null;
  document: ShotDocument;
  before: Places;
  after: Places;
  legal: string[];
}

/** The entry for a logged shot. */
export function logged(rack: Rack, shot: Shot): Entry {
  return {
    shot,
    rack,
    document: shot.document,
    before: (shot.document.layout_before?.balls ?? shot.before?.balls ?? {}) as Places,
    after: (shot.document.layout_after?.balls ?? shot.after?.balls ?? {}) as Places,
    legal: shot.ruling?.legal_balls ?? [],
  };
}

/** The entry that comes next, with what is known carried over and the usual thing offered. */
export function upcoming(game: Game, draft: ShotDocument | undefined): Entry {
  const last = game.racks[game.racks.length - 1];
  const rack = last && !last.winner ? last : null;
  const up = rack?.next_up;
  const carried = (up?.before?.balls ?? {}) as Places;
  const begins = midRack(game, rack);
  const offered: ShotDocument = {
    player: (up?.player ?? nextBreaker(game)) as "A",
    kind: !begins && (!up || up.phase === "break") ? "break" : "pot",
    intent: "attack",
    intent_source: "inferred",
  };
  const document = { ...offered, ...draft };
  const before = (document.layout_before?.balls ?? carried) as Places;
  const onTable = Object.keys(before).filter((ball) => ball !== "cue");
  return {
    shot: null,
    rack,
    document,
    before,
    after: (document.layout_after?.balls ?? {}) as Places,
    legal: up?.legal_balls.length ? up.legal_balls : lowest(onTable.length ? onTable : game.balls),
  };
}

const lowest = (balls: string[]) =>
  balls
    .filter((ball) => ball !== "cue")
    .sort((a, b) => Number(a) - Number(b))
    .slice(0, 1);

function midRack(game: Game, rack: Rack | null): boolean {
  return (
    game.racks.length <= 1 && (rack?.shots.length ?? 0) === 0 && Boolean(game.header.start?.layout?.state)
  );
}

export function nextBreaker(game: Game): string {
  const last = game.racks[game.racks.length - 1];
  if (!last) return game.header.start?.player ?? game.header.start?.breaker ?? "A";
  const how = (game.header.rules as { breaks?: string } | undefined)?.breaks ?? "winner";
  const other = (player: string) => (player === "A" ? "B" : "A");
  if (how === "alternate" || !last.winner) return other(last.breaker);
  return how === "winner" ? last.winner : other(last.winner);
}

/** The ball and pocket that are meant, or that are offered until somebody says so. */
export function meant(
  entry: Entry,
  readings: ShotReading[],
): { ball: string; pocket: string | null; offered: boolean } | null {
  const { called, kind } = entry.document;
  const ball = called?.ball ?? (kind === "break" ? undefined : entry.legal[0]);
  if (!ball) return null;
  if (called?.pocket) return { ball, pocket: called.pocket, offered: false };
  return { ball, pocket: entry.shot ? null : easiest(ball, readings), offered: !entry.shot };
}

/** The pocket most players would take: clear, not too thin, not too far. */
function easiest(ball: string, readings: ShotReading[]): string | null {
  const open = readings.filter(
    (r) => r.ball === ball && r.cut_angle_deg !== null && r.open > 0.02 && r.blocked_cue.length === 0,
  );
  const cost = (r: ShotReading) =>
    (r.cut_angle_deg ?? 90) / 40 + (r.cue_distance ?? 3) + r.pocket_distance + 2 * (1 - r.open);
  return open.sort((one, other) => cost(one) - cost(other))[0]?.pocket ?? null;
}

/** The balls after the shot as far as the result tells: potted ones gone, the cue ball to be placed. */
export function layoutAfter(entry: Entry, potted: string[], scratch: boolean): Places {
  const gone = new Set([...potted, ...(entry.document.off_table ?? [])]);
  const source = Object.keys(entry.after).length ? { ...entry.before, ...entry.after } : entry.before;
  const left = Object.entries(source).filter(([ball]) => !gone.has(ball) && ball !== "cue");
  const cue = entry.after["cue"];
  return Object.fromEntries(scratch || !cue ? left : [["cue", cue], ...left]) as Places;
}

export type ResultId = "made" | "missed-thick" | "missed-thin" | "missed-jaw" | "fluke" | "played";

/** What a result key writes. */
export function withResult(
  entry: Entry,
  result: ResultId,
  target: { ball: string; pocket: string | null } | null,
): ShotDocument {
  const aimed = target && target.pocket ? { ball: target.ball, pocket: target.pocket as "head-left" } : null;
  const potted =
    result === "made" && aimed ? [aimed] : result === "fluke" ? (entry.document.potted ?? []) : [];
  const document: ShotDocument = { ...entry.document, result, potted };
  if (result !== "played" && aimed && document.kind !== "break") document.called = aimed;
  if (result === "played") delete document.called;
  // In a combination the ball that falls is not the one that is hit first.
  if (result === "made" && target && entry.legal.includes(target.ball))
    document.first_contact ??= target.ball;
  if (document.kind === "break") return document; // where it left the balls is placed on the next still picture
  return withAfter(
    document,
    layoutAfter(
      entry,
      potted.map((p) => p.ball),
      Boolean(document.scratch),
    ),
  );
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

export const ZONE_RADIUS = 0.12;

/** A graded disc about a place: ideal within half the radius. */
export function zoneAt(centre: Place, radius: number) {
  return [
    { grade: "ideal" as const, centre, radius: radius / 2 },
    { grade: "acceptable" as const, centre, radius },
  ];
}

/** The document with a graded zone for a ball about a place. */
export function withZone(document: ShotDocument, ball: string, centre: Place, radius: number): ShotDocument {
  const target = document.targets?.[ball];
  const source = target?.source ?? document.intent_source ?? "inferred";
  return {
    ...document,
    targets: {
      ...document.targets,
      [ball]: { ...target, source, zones: zoneAt(rounded(centre), Math.round(radius * 1000) / 1000) },
    },
  };
}

/** The ball to place next: before the shot all that the rules still have on the table, after it the cue ball. */
export function nextToPlace(
  game: Game,
  entry: Entry,
  balls: Places,
  moment: "before" | "after",
): string | null {
  if (moment === "after") return balls["cue"] ? null : "cue";
  const fallen =
    entry.rack?.shots.flatMap((shot) => shot.document.potted?.map((one) => one.ball) ?? []) ?? [];
  const gone = new Set(entry.document.kind === "break" ? [] : fallen);
  return game.balls.find((ball) => !balls[ball] && !gone.has(ball)) ?? null;
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

export function hasFoul(document: ShotDocument, foul: string): boolean {
  if (foul === "no-contact") return document.first_contact === null;
  if (foul === "no-rail") return document.rails_after_contact === 0;
  if (foul === "off-table") return Boolean(document.off_table?.length);
  return document.fouls_seen?.some((one) => one === foul) ?? false;
}

/** Fouls are kept as what was seen: no contact, no rail, a ball off the table; the rest by name. */
export function withFoul(document: ShotDocument, foul: string, legal: string[]): Partial<ShotDocument> {
  const had = hasFoul(document, foul);
  if (foul === "no-contact") return { first_contact: had ? (legal[0] ?? null) : null };
  if (foul === "no-rail") return { rails_after_contact: had ? 1 : 0 };
  if (foul === "off-table") return { off_table: had ? [] : ["cue"] };
  const others = (document.fouls_seen ?? []).filter((one) => one !== foul);
  return { fouls_seen: had ? others : [...others, foul as "push"] };
}
