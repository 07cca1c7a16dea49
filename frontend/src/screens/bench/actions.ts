/** What can be done at the bench. Every action ends in an edit of the entry, a change, or a word to the coach. */
import type { Marks, Place, Places, Pocket, Recording, ShotDocument } from "../../api/types";
import { ballsOfKey } from "../../games/discipline";
import type { ResultId } from "../../words";
import { sigmaAt } from "../../table/camera";
import { rounded, snap } from "../../table/snap";
import { headerChange, newShot, rackChange, shotChange, type Writing } from "./changes";
import { ZONE_RADIUS, layoutAfter, nextToPlace, withAfter, withBall, withResult, withZone } from "./entry";
import {
  firstEdge,
  firstMarks,
  turned,
  withEdge,
  withMarks,
  withMore,
  withoutEdge,
  withView,
} from "./marking";
import { useAsked } from "./choices/state";
import { foundActions } from "./found/actions";
import { keepDraft, open, putDown, say, useBench, type Moment } from "./state";
import type { Workbench } from "./useWorkbench";

export type Actions = ReturnType<typeof actionsOf>;
type Surface = "picture" | "drawing";

const SMALLEST_ZONE = 0.02;
const LARGEST_ZONE = 0.6;

export function actionsOf(bench: Workbench, writing: Writing) {
  const { game, found, entry, document, moment, balls, target, player } = bench;
  const layoutKey = moment === "before" ? "layout_before" : "layout_after";

  // The entry
  const edit = (next: ShotDocument, label: string) => {
    if (found) {
      const where = `rack ${found.index + 1} shot ${found.rack.shots.indexOf(found.shot) + 1}`;
      const { id, seat } = found.shot;
      writing.change(`${label}, ${where}`, [shotChange(id, found.rack.id, seat, next)]);
    } else keepDraft(game.id, timed(next));
  };
  /** A new entry begins at the picture that was on the screen. */
  const timed = (next: ShotDocument): ShotDocument =>
    bench.recording && next.time?.start == null
      ? { ...next, recording: bench.recordingIndex, time: { ...next.time, start: now() } }
      : next;
  const set = (patch: Partial<ShotDocument>, label: string) => {
    edit({ ...document, ...patch }, label);
  };
  const now = () => Math.round(player.time * 1000) / 1000;

  const goTo = (where: { shot?: string; rack?: number }) => {
    writing.show(where);
    useAsked.setState({ option: null, ball: null, tried: null, drawing: null, settle: false });
    putDown();
    useBench.setState({ chosen: null, moment: "before", foundShot: null, doubts: [] });
    const next = game.racks.flatMap((rack) => rack.shots).find((one) => one.id === where.shot);
    if (next?.document.time?.start != null) player.seek(next.document.time.start);
  };
  const step = (by: number) => {
    const all = game.racks.flatMap((rack) => rack.shots);
    const next = all[(found ? all.indexOf(found.shot) : all.length) + by];
    if (next) goTo({ shot: next.id });
    else if (by > 0) goTo({});
  };
  const log = (logging: ShotDocument) => {
    const number = entry.rack ? game.racks.indexOf(entry.rack) + 1 : game.racks.length + 1;
    writing.change(
      `shot ${(entry.rack?.shots.length ?? 0) + 1} of rack ${number}`,
      newShot(game, entry.rack, logging),
    );
    keepDraft(game.id, null);
    putDown();
    useBench.setState({ moment: "before", chosen: null });
    writing.show({});
    say("Logged.");
  };
  const logEntry = () => {
    if (found) step(1);
    else if (game.winner) say("The match is over.");
    else if (!happened(document))
      say("What happened? A result key first (m made, t thick, n thin, j jaws, g no pot meant).");
    else log(document);
  };
  /** The rack ends here: given up by a player, or without a winner. */
  const endRack = (how: "A" | "B" | "closed") => {
    const rack = entry.rack ?? game.racks[game.racks.length - 1];
    if (!rack) return;
    const patch = how === "closed" ? { closed: true } : { conceded_by: how };
    writing.change(how === "closed" ? "ended without a winner" : `given up by ${how}`, [
      rackChange(game, rack, patch),
    ]);
    keepDraft(game.id, null);
    writing.show({});
  };
  const remove = () => {
    if (!found || !confirm("Remove this shot from the log?")) return;
    writing.change("shot removed", [shotChange(found.shot.id, found.rack.id, found.shot.seat, null)]);
    goTo({ rack: found.index });
  };

  // Balls, zones and lines
  const place = (ball: string, wanted: Place, done: boolean, from: Surface) => {
    if (bench.foundShots.shot) {
      dragFound(ball, wanted, done);
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
    edit(withBall(document, layoutKey, balls, ball, rounded(at), sigma), `${ball} placed`);
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
    useBench.setState({ tool: "place", placing: nextToPlace(entry, balls, moment) });
  };
  const startZone = (ball: string | undefined) => {
    if (!ball) return;
    useBench.setState({ tool: "zone", placing: ball });
    say(
      ball === "cue"
        ? "Click the middle of the target zone."
        : `Click the middle of where the ${ball} should go.`,
    );
  };
  const startRoute = () => {
    useBench.setState({ tool: "route", moment: "after" });
    say("Click where the cue ball's last leg began.");
  };
  const point = (at: Place, from: Surface) => {
    const { tool, placing } = useBench.getState();
    const { drawing } = useAsked.getState();
    if (bench.choosing) {
      if (drawing) useAsked.setState({ drawing: { ...drawing, aim: rounded(at) } });
    } else if (tool === "place" && placing) place(placing, at, true, from);
    else if (tool === "zone") {
      const ball = placing ?? "cue";
      const radius = document.targets?.[ball]?.zones?.at(-1)?.radius ?? ZONE_RADIUS;
      edit(withZone(document, ball, at, radius), "target zone");
      putDown();
      say(null);
    } else if (tool === "route") {
      set({ route: [rounded(at)] }, "last leg");
      putDown();
      say(null);
    } else useBench.setState({ chosen: null });
  };
  const resizeZone = (by: number) => {
    const ball = bench.chosen && document.targets?.[bench.chosen] ? bench.chosen : "cue";
    const last = document.targets?.[ball]?.zones?.at(-1);
    if (!last?.centre || last.radius === undefined) return;
    const radius = Math.max(SMALLEST_ZONE, Math.min(LARGEST_ZONE, last.radius + by));
    edit(withZone(document, ball, last.centre, radius), "zone's size");
  };
  /** A digit names a ball, or the next of its sort; in a game without places the first that is left. */
  const chooseByKey = (digit: number, shift: boolean) => {
    const found = ballsOfKey(game.header.discipline, digit, shift, entry.standing);
    const now = document.called ? found.indexOf(document.called.ball ?? "") : -1;
    const offered = now < 0 ? found.indexOf(target?.ball ?? "") : -1;
    const ball = found[now >= 0 ? (now + 1) % found.length : Math.max(0, offered)];
    if (ball) chooseBall(ball);
    else say("That ball is not on the table any more.");
  };
  const chooseBall = (ball: string) => {
    useBench.setState({ chosen: ball });
    if (bench.foundShots.shot) return;
    if (ball !== "cue" && moment === "before" && !found)
      set({ called: { ball, pocket: null } }, "ball meant");
  };
  const takeOff = () => {
    const { chosen } = bench;
    if (chosen) edit(withBall(document, layoutKey, balls, chosen, null, null), `${chosen} taken off`);
  };

  // What was meant and what happened
  const choosePocket = (pocket: Pocket) => {
    if (target) set({ called: { ball: target.ball, pocket } }, "pocket meant");
  };
  const result = (what: ResultId) => {
    const next = withResult(entry, what, target);
    edit(next, what.replace("-", " "));
    if (document.kind === "break") {
      say("Tick what fell, then Enter.");
      return;
    }
    const places = Object.keys(entry.before).length > 0;
    const toPlace = places && !next.layout_after?.balls?.["cue"] && !next.scratch;
    useBench.setState({ moment: "after", tool: toPlace ? "place" : "look", placing: toPlace ? "cue" : null });
    say(toPlace ? "Click where the cue ball stopped, then Enter." : "Enter logs it.");
  };
  const scratch = () => {
    const scratched = !document.scratch;
    const seen = document.result ?? (document.kind === "break" ? null : "played");
    const potted = (document.potted ?? []).map((one) => one.ball);
    const next: ShotDocument = { ...document, scratch: scratched, result: seen };
    const known = document.kind === "break" ? {} : layoutAfter(entry, potted, scratched);
    edit(withAfter(next, known), "scratch");
    putDown();
  };

  // The recording
  /** Turn to before or after the shot; a logged shot's picture goes there too. */
  const look = (to: Moment) => {
    if (bench.foundShots.shot) {
      ofFound.lookAtSide(to);
      return;
    }
    useBench.setState({ moment: to });
    const time = to === "before" ? document.time?.start : document.time?.still;
    if (found && time != null) player.seek(time);
  };
  const markTime = (which: "start" | "contact" | "still") => {
    set({ recording: bench.recordingIndex, time: { ...document.time, [which]: now() } }, `${which} marked`);
  };
  const recordings = (label: string, next: typeof bench.entries) => {
    writing.change(label, [headerChange(game, { recordings: next })]);
  };
  const link = ({ sha256, name }: Recording) => {
    open(null);
    const fresh = { sha256, name, views: [{ from: 0, to: null, camera: null }] };
    recordings("recording chosen", [...bench.entries, fresh]);
  };
  const saveMarks = (marks: Marks) => {
    useBench.setState({ marks });
    recordings("table marked", withMarks(bench.entries, bench.recordingIndex, player.time, marks));
  };
  const mark = () => {
    if (useBench.getState().tool === "mark") {
      putDown();
      say(null);
    } else if (bench.recording) {
      useBench.setState({ tool: "mark", marks: bench.marks ?? firstMarks(bench.recording.probe) });
      say("Drag each corner to where the nose lines of two rails meet; a double click takes a mark away.");
    }
  };
  const markMore = (sort: "pocket" | "sight") => {
    if (bench.marks && bench.camera.data)
      saveMarks(withMore(bench.marks, bench.camera.data, game.table, sort));
  };
  const markEdge = () => {
    const { marks, recording } = bench;
    if (!marks || !recording) return;
    const told = withoutEdge(marks);
    saveMarks(told.picture ? told.marks : (withEdge(marks, firstEdge(recording.probe)) ?? marks));
    say(
      told.picture
        ? null
        : "Drag both corners to the real picture's edge: the screen round it is no camera's.",
    );
  };
  const turnRound = () => {
    if (useBench.getState().tool === "mark" && bench.marks) saveMarks(turned(bench.marks));
  };
  const newView = () => {
    recordings("new view", withView(bench.entries, bench.recordingIndex, player.time));
    if (bench.recording) useBench.setState({ marks: firstMarks(bench.recording.probe) });
  };

  const setLayout = (places: Places, sigma: Record<string, number>) => {
    edit(
      { ...document, [layoutKey]: { ...document[layoutKey], balls: places, sigma } },
      "balls read from the picture",
    );
  };
  const ofFound = foundActions(bench, { change: writing.change, saveMarks, setLayout });
  const dragFound = (ball: string, at: Place, done: boolean) => {
    useBench.setState({ dragged: done ? null : { ball, place: at } });
    if (done) bench.foundShots.place(ball, at);
  };

  return {
    ...ofFound,
    edit, set, goTo, step, log, logEntry, endRack, remove,
    place, startPlacing, startZone, startRoute, point, resizeZone, chooseBall, chooseByKey, takeOff,
    choosePocket, result, scratch,
    look, markTime, link, saveMarks, mark, markMore, markEdge, turnRound, newView,
    reverse: writing.reverse,
  }; // prettier-ignore
}

/** Whether an entry says anything of what happened. */
function happened(document: ShotDocument): boolean {
  return (
    Boolean(document.declared) ||
    document.kind === "break" ||
    document.result != null ||
    Boolean(document.scratch) ||
    document.first_contact === null
  );
}
