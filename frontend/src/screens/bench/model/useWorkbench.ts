/** Everything that lies on the bench: the entry, its recording and camera, the reading, what is drawn. */
import { useEffect, useMemo, useState } from "react";
import { useSearchParams } from "react-router";

import { useCamera, useFrameTimes, useMeasured, useReading, useRecordings } from "../../../api/queries";
import type { FoundShot, Game, Place, Places, ShotDocument } from "../../../api/types";
import { lengthIn, useSettings } from "../../../settings";
import { inkShapes, type Drawing } from "../../../table/ink";
import { zoneShapes, type Shape } from "../../../table/shapes";
import { foundKey, fromFound, inserted, logged, meant, upcoming, type Entry } from "./entry";
import { mapShapes } from "../choices/map";
import { orderShapes } from "../choices/order";
import { useAsked } from "../choices/state";
import { useChoicesOf, type ChoicesOf } from "../choices/useChoicesOf";
import { waysOf } from "../found/document";
import { useFound } from "../found/useFound";
import { viewAt, withEdge, withoutEdge } from "./marking";
import { useBench, useDrafts, type Pen } from "./state";
import { usePlayer } from "./usePlayer";
import { sketch } from "./zones";

const DOT = 0.012; // m round the first point of a drawing
const LOOP_LENGTH = 4; // seconds, for a shot whose end is not marked

export type Workbench = ReturnType<typeof useWorkbench>;

export function useWorkbench(game: Game) {
  const params = usePlace();
  const {
    moment,
    dragged,
    chosen,
    marks: setMarks,
    looping,
    doubts: unsure,
    insert,
    corners,
    pen,
  } = useBench();
  const drafts = useDrafts((state) => state.drafts);
  const shotId = params.get("shot");
  const found = useMemo(() => placeOf(game, shotId), [game, shotId]);
  const asked = params.has("rack") ? Number(params.get("rack")) : game.racks.length - 1;
  const foundShots = useFound(game);
  const looked = foundShots.shot;
  const entry = useMemo(
    () => entryOf(game, { found, looked, insert }, drafts),
    [game, found, looked, insert, drafts],
  );
  const { document } = entry;
  const choices = useChoicesOf(game, entry);
  const { open, map: mapped, order: ordered, drawing, laying } = useAsked();
  const choosing = open && !looked;
  const balls = moment === "before" ? entry.before : entry.after;
  const lying: Places = choosing ? choices.balls : balls;
  const shown: Places = looked
    ? foundShots.balls
    : dragged
      ? { ...lying, [dragged.ball]: dragged.place }
      : lying;
  const table = game.header.table ?? "pool-9ft";

  const recordings = useRecordings();
  const entries = game.header.recordings ?? [];
  const recordingIndex = foundShots.shot ? (foundShots.reading?.recording ?? 0) : (document.recording ?? 0);
  const linked = entries[recordingIndex];
  const recording = recordings.data?.recordings.find((one) => one.sha256 === linked?.sha256);
  const [video, setVideo] = useState<HTMLVideoElement | null>(null);
  const times = useFrameTimes(recording?.sha256);
  const start = document.time?.start;
  const span: [number, number] | null =
    looping && start != null ? [start, document.time?.still ?? start + LOOP_LENGTH] : null;
  const player = usePlayer(video, times.data, span);
  const view = viewAt(linked, player.time);
  const marks = setMarks ?? withEdge(view?.camera?.marks, view?.camera?.picture);
  const told = marks && withoutEdge(marks);
  const camera = useCamera(table, told?.marks, recording, told?.picture);

  const before = moment === "before" ? shown : entry.before;
  const sigma = (document.layout_before?.sigma ?? {}) as Record<string, number>;
  const focus = document.called ?? { ball: entry.legal[0] ?? "", pocket: null };
  const board = found ? found.shot.board : entry.up?.board;
  const state = { group: board?.group[document.player ?? "A"] ?? null };
  const first = useReading(table, game.header.discipline, before, focus, sigma, state);
  const target = meant(game, entry, first.data?.shots ?? []);
  const reading = useReading(table, game.header.discipline, before, target ?? focus, sigma, state);
  const shot = reading.data?.shots.find((one) => one.ball === target?.ball && one.pocket === target.pocket);

  const potted = shot && reading.data?.shapes;

  const seen = foundShots.shot;
  const looking = seen !== null;
  const { drawings = NOTHING_DRAWN } = document;
  const measured = useMeasured(game, shown, drawings, sigma);
  const unit = useSettings((state) => state.unit);
  const drawn = useMemo(() => {
    const said = measured.data?.drawings.map(({ length }) =>
      length ? lengthIn(length, unit, game.table) : "",
    );
    return inked(drawings, pen, said?.length === drawings.length ? said : []);
  }, [drawings, pen, measured.data, unit, game.table]);
  const known = useMemo(() => {
    if (seen) return waysOf(seen);
    if (choosing) {
      if (laying?.entry === entry.key)
        return laying.order.flatMap(({ zone }) => zoneShapes(zone ? [zone] : []));
      return choiceShapes(game, choices, mapped, ordered, drawing?.aim ?? null);
    }
    const stop = entry.after["cue"];
    const error = found?.shot.error;
    const route = (document.route ?? []) as Place[];
    const drawn: Shape[] = Object.values(document.targets ?? {}).flatMap((one) => zoneShapes(one.zones));
    if (moment === "before" && potted) drawn.push(...potted);
    if (error && stop && error.distance > 0) {
      const nearest: Place = [stop[0] - error.vector[0], stop[1] - error.vector[1]];
      drawn.push({
        line: "error",
        points: [nearest, stop],
        label: `${(error.distance * 100).toFixed(0)} cm`,
      });
    }
    if (moment === "after" && route.length && stop) drawn.push({ line: "route", points: [...route, stop] });
    if (corners.length) drawn.push({ line: "aim", points: sketch(corners) });
    return drawn;
  }, [
    moment,
    potted,
    found,
    entry.after,
    entry.key,
    document.route,
    document.targets,
    seen,
    choosing,
    choices,
    mapped,
    ordered,
    drawing,
    laying,
    game,
    corners,
  ]);
  const shapes = useMemo(() => [...known, ...drawn], [known, drawn]);
  const elsewhere = !looked && !choosing && Boolean(recording) && start == null && entry.shot !== null;

  return {
    game, found, foundShots, choices, choosing, cloud: choosing ? (choices.option?.landing) : undefined,
    doubts: looking ? foundShots.doubts : unsure, entry, document, moment, balls, shown, chosen,
    rackIndex: found?.index ?? Math.max(0, asked),
    entries, recordingIndex, linked, recording, setVideo, video, player, marks, marked: view?.camera?.marks !== undefined, camera, insert, elsewhere,
    ready: times.data !== undefined,
    board: board ?? null, target, reading, shot, shapes, drawings, measured: measured.data?.drawings,
  }; // prettier-ignore
}

const NOTHING_DRAWN: Drawing[] = [];

/** What was drawn by hand, and what is being drawn. */
function inked(drawings: Drawing[], { kind, ink, points, at }: Pen, labels: string[]): Shape[] {
  const begun = at ? [...points, at] : points;
  const [only] = begun;
  const dot: Drawing[] =
    only && begun.length === 1 ? [{ kind: "circle", points: [only, [only[0] + DOT, only[1]]], ink }] : [];
  const open = kind === "area" && begun.length < 3 ? "line" : kind;
  return inkShapes([...drawings, ...dot, { kind: open, points: begun, ink }], labels);
}

/** Where the bench stands: as the address has it, or is about to. */
function usePlace(): URLSearchParams {
  const [params] = useSearchParams();
  const going = useBench((state) => state.going);
  const address = params.toString();
  useEffect(() => {
    if (going === address) useBench.setState({ going: null });
  }, [going, address]);
  return useMemo(() => new URLSearchParams(going ?? address), [going, address]);
}

/** Where in the match a logged shot stands. */
function placeOf(game: Game, shotId: string | null) {
  return game.racks
    .flatMap((rack, index) => rack.shots.map((shot) => ({ rack, shot, index })))
    .find((one) => one.shot.id === shotId);
}

interface Looked {
  found: ReturnType<typeof placeOf>;
  looked: FoundShot | null;
  insert: string | null;
}

/** The entry on the bench: a found shot, a logged one, a forgotten one, or the next. */
function entryOf(game: Game, { found, looked, insert }: Looked, drafts: Record<string, ShotDocument>): Entry {
  if (looked) return fromFound(game, looked, drafts[foundKey(game.id, looked.id)]);
  if (found) return logged(found.rack, found.shot);
  const before = placeOf(game, insert);
  if (before) return inserted(game, before.rack, before.shot, drafts[`${game.id}/before/${before.shot.id}`]);
  return upcoming(game, drafts[game.id]);
}

/** The map behind the table, the option that is looked at, the stroke that is being aimed. */
function choiceShapes(
  game: Game,
  choices: ChoicesOf,
  mapped: boolean,
  ordered: boolean,
  aim: Place | null,
): Shape[] {
  const { map, option, other, balls, plan } = choices;
  if (ordered && plan && !option) return orderShapes(plan, balls, game.table.pockets);
  const drawn: Shape[] = mapped && map && !option ? mapShapes(map) : [];
  const cue = balls["cue"];
  if (cue && aim) drawn.push({ line: "aim", points: [cue, aim], label: "cue" });
  if (!option) return drawn;
  drawn.push({ line: "cue-path", points: option.path });
  if (other) drawn.push({ line: "route", points: other.path }, ...stops(other.landing));
  const at = option.ball ? balls[option.ball] : undefined;
  const mouth = game.table.pockets.find((pocket) => pocket.name === option.pocket)?.mouth;
  if (at && mouth && option.kind === "pot") drawn.push({ line: "pocket", points: [at, mouth] });
  return drawn;
}

/** Where a cue ball mostly stops, as a dashed outline: twice the spread along and across its own axes. */
function stops(landing: Place[]): Shape[] {
  const n = landing.length;
  if (n < 3) return [];
  const mx = landing.reduce((sum, [x]) => sum + x, 0) / n;
  const my = landing.reduce((sum, [, y]) => sum + y, 0) / n;
  const [xx, xy, yy] = landing.reduce(
    ([a, b, c], [x, y]) => [a + (x - mx) ** 2, b + (x - mx) * (y - my), c + (y - my) ** 2],
    [0, 0, 0],
  );
  const turn = 0.5 * Math.atan2(2 * xy, xx - yy);
  const root = Math.hypot((xx - yy) / 2, xy);
  const [long, wide] = [(xx + yy) / 2 + root, (xx + yy) / 2 - root].map(
    (one) => 2 * Math.sqrt(Math.max(0, one) / n),
  );
  const points = Array.from({ length: 48 }, (_, at): Place => {
    const angle = (2 * Math.PI * at) / 48;
    const [u, v] = [(long ?? 0) * Math.cos(angle), (wide ?? 0) * Math.sin(angle)];
    return [mx + u * Math.cos(turn) - v * Math.sin(turn), my + u * Math.sin(turn) + v * Math.cos(turn)];
  });
  return [{ line: "recoverable", points, closed: true }];
}
