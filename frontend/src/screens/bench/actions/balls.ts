/** Balls, zones and lines: placed, moved by hand or by arrows, drawn. */
import type { Place, Places } from "../../../api/types";
import { ballsOfKey } from "../../../games/discipline";
import { sigmaAt } from "../../../table/camera";
import { rounded, snap } from "../../../table/snap";
import { layBall, layZone, useAsked } from "../choices/state";
import type { FoundActions } from "../found/actions";
import { nextToPlace, withBall } from "../model/entry";
import { putDown, say, useBench } from "../model/state";
import type { Workbench } from "../model/useWorkbench";
import {
  CORNERS,
  HOW,
  SHAPES,
  ZONE_RADIUS,
  drawn,
  movedZones,
  rather,
  withZones,
  zoneAt,
} from "../model/zones";
import type { EntryActions } from "./entry";

export type Surface = "picture" | "drawing";

const SMALLEST_ZONE = 0.02;
const LARGEST_ZONE = 0.6;
const NEAR_A_POCKET = 0.09; // m from its mouth within which a click means it
const FINE = 0.002; // m that an arrow moves a ball; with Shift an eighth of a diamond

export function ballActions(bench: Workbench, entryActions: EntryActions, found: FoundActions) {
  const { game, entry, document, moment, balls, target } = bench;
  const { edit, set, choosePocket, chooseMeant } = entryActions;
  const layoutKey = moment === "before" ? "layout_before" : "layout_after";

  const place = (ball: string, wanted: Place, done: boolean, from: Surface) => {
    if (ball.startsWith("zone:")) {
      if (done) edit(movedZones(document, ball.slice(5), wanted), "zone moved");
      return;
    }
    if (entry.found) {
      found.placeFound(ball, wanted, done);
      if (done) putDown();
      return;
    }
    const lying = bench.choosing ? bench.choices.balls : balls;
    const { place: at, said } = snap(game.table, lying, ball, wanted);
    say(said);
    if (!done) {
      useBench.setState({ dragged: { ball, place: at } });
      return;
    }
    useBench.setState({ dragged: null });
    if (bench.choosing) {
      tryOut({ ...lying, [ball]: rounded(at) });
      return;
    }
    const sigma = from === "picture" && bench.camera.data ? sigmaAt(bench.camera.data, at) : null;
    const next = withBall(document, layoutKey, balls, ball, rounded(at), sigma);
    const unknown = moment === "after" && !next.layout_after?.balls?.["cue"] && !next.scratch;
    edit(unknown ? { ...next, scratch: false } : next, `${ball} placed`);
    if (useBench.getState().placing === ball) placed(ball, at);
  };
  /** Another table is looked at; what was logged stays as it is. */
  const tryOut = (tried: Places) => {
    useAsked.setState({ tried: { entry: bench.choices.key, balls: tried }, option: null });
    say("Tried out: what was logged stays as it is.");
  };
  const placed = (ball: string, at: Place) => {
    const next = nextToPlace(entry, { ...balls, [ball]: at }, moment);
    if (moment === "before") {
      useBench.setState({ placing: next });
      return;
    }
    const missed = document.result?.startsWith("missed") && document.called;
    say(missed ? `Drag the ${missed.ball} to where it stopped, or Enter.` : "Enter logs it.");
    useBench.setState({ placing: null, tool: "look" });
  };
  const startPlacing = () => {
    say(null);
    const missing = entry.found
      ? game.balls.find((ball) => !bench.shown[ball])
      : nextToPlace(entry, balls, moment);
    useBench.setState({ tool: "place", placing: missing ?? null });
  };
  const startPlacingBall = (ball: string) => {
    useBench.setState({ tool: "place", placing: ball });
  };

  // Zones
  const startZone = (ball: string | undefined) => {
    if (!ball) return;
    const { tool, zone } = useBench.getState();
    const shape = tool === "zone" ? (SHAPES[(SHAPES.indexOf(zone) + 1) % SHAPES.length] ?? "disc") : "disc";
    useBench.setState({ tool: "zone", placing: ball, zone: shape, corners: [] });
    say(ball === "cue" ? HOW[shape] : `Click the middle of where the ${ball} should go.`);
  };
  const corner = (at: Place) => {
    const { zone, corners } = useBench.getState();
    const all = [...corners, rounded(at)];
    if (all.length < CORNERS[zone]) useBench.setState({ corners: all });
    else finishZone(all);
  };
  const finishZone = (corners = useBench.getState().corners) => {
    const { placing, zone, chosen, zoneNext } = useBench.getState();
    const ball = placing ?? "cue";
    const next = zoneNext ?? (chosen && chosen !== "cue" && chosen !== ball ? chosen : null);
    const apex =
      next ?? document.targets?.[ball]?.next?.ball ?? entry.legal.find((one) => one !== target?.ball);
    const radius = document.targets?.[ball]?.zones?.at(-1)?.radius ?? ZONE_RADIUS;
    const zones = drawn(zone, corners, apex ? entry.before[apex] : undefined, radius);
    putDown();
    if (!zones) {
      say(zone === "wedge" ? "A wedge needs the next ball: choose it first." : "That is no area yet.");
      return;
    }
    edit(withZones(document, ball, zones, next), "target zone");
    say("Drawn: + and − size it, o says which end is better, drag its cross.");
  };
  /** What this zone is for. */
  const zoneFor = (next: string) => {
    useBench.setState({ zoneNext: next });
    say(next === "safety" ? "The zone is for a safety." : `The zone is for the ${next}.`);
  };
  const zoneForKey = (digit: number, shift: boolean) => {
    const [ball] = ballsOfKey(game.header.discipline, digit, shift, entry.standing);
    if (ball) zoneFor(ball);
  };
  const resizeZone = (by: number) => {
    const ball = bench.chosen && document.targets?.[bench.chosen] ? bench.chosen : "cue";
    const last = document.targets?.[ball]?.zones?.at(-1);
    if (!last?.centre || last.radius === undefined) return;
    const radius = Math.max(SMALLEST_ZONE, Math.min(LARGEST_ZONE, last.radius + by));
    const centre = last.centre;
    edit(
      withZones(document, ball, zoneAt(centre, Math.round(radius * 1000) / 1000), last.next ?? null),
      "zone's size",
    );
  };
  const betterEnd = () => {
    const next = rather(document, "cue");
    const end = next.targets?.["cue"]?.zones?.at(-1)?.rather;
    edit(next, "better end of the zone");
    say(end ? `Rather ${end}.` : "Either end will do.");
  };
  const startRoute = () => {
    useBench.setState({ tool: "route", moment: "after" });
    say("Click where the cue ball's last leg began.");
  };

  const point = (at: Place, from: Surface) => {
    const { tool, placing } = useBench.getState();
    const { drawing, laying } = useAsked.getState();
    if (bench.choosing) {
      if (laying?.entry === entry.key) layZone(rounded(at), ZONE_RADIUS);
      else if (drawing) useAsked.setState({ drawing: { ...drawing, aim: rounded(at) } });
    } else if (tool === "place" && placing) place(placing, at, true, from);
    else if (tool === "zone") corner(at);
    else if (tool === "route") {
      set({ route: [rounded(at)] }, "last leg");
      putDown();
      say(null);
    } else {
      const pocket = game.table.pockets.find(
        ({ mouth }) => Math.hypot(mouth[0] - at[0], mouth[1] - at[1]) < NEAR_A_POCKET,
      );
      if (pocket && target && moment === "before") choosePocket(pocket.name);
      useBench.setState({ chosen: null });
    }
  };

  // Choosing and moving
  const chooseBall = (ball: string) => {
    if (bench.choosing && useAsked.getState().laying?.entry === entry.key) {
      layBall(ball);
      return;
    }
    useBench.setState({ chosen: ball });
    if (entry.found || bench.choosing || ball === "cue" || moment !== "before") return;
    if (!entry.shot) chooseMeant(ball);
    else say(`The ${ball}: arrows move it, a digit says which ball was meant.`);
  };
  /** The balls on the table one after the other, as they lie from the head. */
  const chooseNext = (by: 1 | -1) => {
    const all = Object.entries(bench.shown)
      .sort(([, one], [, other]) => one[0] - other[0])
      .map(([ball]) => ball);
    const at = all.indexOf(bench.chosen ?? "");
    const next = all[(at + by + all.length + (at < 0 && by < 0 ? 1 : 0)) % Math.max(1, all.length)];
    if (!next) return;
    useBench.setState({ chosen: next });
    say(`The ${next === "cue" ? "cue ball" : next}: arrows move it, with Shift further; y by diamonds.`);
  };
  const nudge = (along: number, across: number, far: boolean) => {
    const { tool, placing } = useBench.getState();
    const ball = bench.chosen ?? placing;
    if (!ball || tool === "mark") return;
    const step = far ? game.table.length / 64 : FINE;
    const at = bench.shown[ball] ?? [game.table.length / 2, game.table.width / 2];
    place(ball, [at[0] + along * step, at[1] + across * step], true, "drawing");
  };
  const takeOff = () => {
    const { chosen } = bench;
    if (chosen) edit(withBall(document, layoutKey, balls, chosen, null, null), `${chosen} taken off`);
  };
  /** By two diamond figures: a ball, or while a zone is drawn its middle. */
  const byDiamonds = (ball: string, at: Place) => {
    if (useBench.getState().tool === "zone") corner(at);
    else place(ball, at, true, "drawing");
  };
  return {
    place, startPlacing, startPlacingBall, startZone, corner, finishZone, zoneFor, zoneForKey, resizeZone, betterEnd, startRoute, point,
    chooseBall, chooseNext, nudge, takeOff, byDiamonds,
  }; // prettier-ignore
}
