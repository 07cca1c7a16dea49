/** Target zones as people draw them: a disc, a window along a line, a wedge of angle on the next ball, an outline, a
 * dead area. All but the disc are kept as outlines. */
import type { Place, ShotDocument } from "../../../api/types";
import { ring } from "../../../table/shapes";
import { rounded } from "../../../table/snap";
import type { ZoneShape } from "./state";

export const ZONE_RADIUS = 0.12;
const HALF_WINDOW = 0.06; // m to each side of the line
const INNER = 0.1; // m: nearer to the next ball nobody wants to be
const WEDGE_STEPS = 8;

export const SHAPES: ZoneShape[] = ["disc", "window", "wedge", "outline", "dead"];

export const HOW: Record<ZoneShape, string> = {
  disc: "Target zone: click its middle.",
  window: "A window along a line: click its better end, then the other.",
  wedge: "A wedge of angle on the next ball: click its two sides.",
  outline: "An outline: click its corners; Enter closes it.",
  dead: "A dead area, from which nothing goes: click its corners; Enter closes it.",
};

/** After so many corners it is complete; outlines are closed by hand. */
export const CORNERS: Record<ZoneShape, number> = { disc: 1, window: 2, wedge: 2, outline: 200, dead: 200 };

type Zone = NonNullable<NonNullable<ShotDocument["targets"]>[string]["zones"]>[number];

/** A graded disc about a place: ideal within half the radius. */
export function zoneAt(centre: Place, radius: number): Zone[] {
  return [
    { grade: "ideal", centre, radius: radius / 2 },
    { grade: "acceptable", centre, radius },
  ];
}

/** The zones that these corners draw; `apex` is the next ball's place. Null where they draw none. */
export function drawn(
  shape: ZoneShape,
  corners: Place[],
  apex: Place | undefined,
  radius: number,
): Zone[] | null {
  const [one, other] = corners;
  if (!one) return null;
  if (shape === "disc") return zoneAt(rounded(one), Math.round(radius * 1000) / 1000);
  if (shape === "window") return other ? [{ grade: "acceptable", outline: windowAlong(one, other) }] : null;
  if (shape === "wedge")
    return other && apex ? [{ grade: "acceptable", outline: wedge(apex, one, other) }] : null;
  if (corners.length < 3) return null;
  return [{ grade: shape === "dead" ? "forbidden" : "acceptable", outline: corners.map(rounded) }];
}

function windowAlong([ax, ay]: Place, [bx, by]: Place): Place[] {
  const length = Math.hypot(bx - ax, by - ay) || 1;
  const [nx, ny] = [(-(by - ay) / length) * HALF_WINDOW, ((bx - ax) / length) * HALF_WINDOW];
  const corners: Place[] = [
    [ax + nx, ay + ny],
    [bx + nx, by + ny],
    [bx - nx, by - ny],
    [ax - nx, ay - ny],
  ];
  return corners.map(rounded);
}

/** The part of a ring about the ball between two directions, the shorter way round. */
function wedge(apex: Place, one: Place, other: Place): Place[] {
  const towards = ([x, y]: Place) => Math.atan2(y - apex[1], x - apex[0]);
  const away = ([x, y]: Place) => Math.hypot(x - apex[0], y - apex[1]);
  const begin = towards(one);
  const turn = Math.atan2(Math.sin(towards(other) - begin), Math.cos(towards(other) - begin));
  const outer = Math.max(away(one), away(other), 2 * INNER);
  const arc = (radius: number): Place[] =>
    Array.from({ length: WEDGE_STEPS + 1 }, (_, step) => {
      const angle = begin + (turn * step) / WEDGE_STEPS;
      return [apex[0] + radius * Math.cos(angle), apex[1] + radius * Math.sin(angle)];
    });
  return [...arc(outer), ...arc(INNER).reverse()].map(rounded);
}

/** The document with zones for a ball: those for another next ball stay, and so do dead areas beside others. */
export function withZones(
  document: ShotDocument,
  ball: string,
  zones: Zone[],
  next: string | null,
): ShotDocument {
  const target = document.targets?.[ball];
  const source = target?.source ?? document.intent_source ?? "inferred";
  const fresh = next ? zones.map((zone) => ({ ...zone, next })) : zones;
  const dead = (zone: Zone) => zone.grade === "forbidden";
  const kept = (target?.zones ?? []).filter(
    (zone) => dead(zone) !== fresh.some(dead) || (zone.next ?? null) !== next,
  );
  return {
    ...document,
    targets: { ...document.targets, [ball]: { ...target, source, zones: [...kept, ...fresh] } },
  };
}

/** Which end of the zone that was drawn last is the better one: long, short, no matter. */
export function rather(document: ShotDocument, ball: string): ShotDocument {
  const target = document.targets?.[ball];
  const last = target?.zones?.at(-1);
  if (!target?.zones || !last) return document;
  const ends = [undefined, "long", "short"] as const;
  const next = ends[(ends.indexOf(last.rather ?? undefined) + 1) % ends.length];
  const zones = [...target.zones.slice(0, -1), { ...last, rather: next ?? null }];
  return { ...document, targets: { ...document.targets, [ball]: { ...target, zones } } };
}

/** The middle of a zone: by it it is dragged. */
export function middleOf(zone: Zone): Place {
  if (!zone.outline?.length) return zone.centre ?? [0, 0];
  const sum = zone.outline.reduce(([x, y], [px = 0, py = 0]) => [x + px, y + py], [0, 0] as Place);
  return [sum[0] / zone.outline.length, sum[1] / zone.outline.length];
}

/** What the zones of an entry are dragged by. */
export const handlesOf = (document: ShotDocument) =>
  Object.entries(document.targets ?? {}).flatMap(([ball, one]) =>
    one.zones?.[0] ? [{ id: `zone:${ball}`, place: middleOf(one.zones[0]) }] : [],
  );

/** All zones of a ball moved along. */
export function movedZones(document: ShotDocument, ball: string, to: Place): ShotDocument {
  const target = document.targets?.[ball];
  const [first] = target?.zones ?? [];
  if (!target?.zones || !first) return document;
  const [x, y] = middleOf(first);
  const by = ([px = 0, py = 0]: number[]): Place => rounded([px + to[0] - x, py + to[1] - y]);
  const zones = target.zones.map((zone) => ({
    ...zone,
    ...(zone.centre ? { centre: by(zone.centre) } : {}),
    ...(zone.outline ? { outline: zone.outline.map(by) } : {}),
  }));
  return { ...document, targets: { ...document.targets, [ball]: { ...target, zones } } };
}

/** A zone that is being drawn. */
export const sketch = (corners: Place[]): Place[] =>
  corners.length === 1 && corners[0] ? ring(corners[0], 0.01) : corners;
