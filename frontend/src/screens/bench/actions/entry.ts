/** The entry: said, put right, logged, moved, taken back. */
import type { ShotDocument, Pocket, Rack } from "../../../api/types";
import { ballsOfKey, ofSort } from "../../../games/discipline";
import type { ResultId } from "../../../words";
import { useAsked } from "../choices/state";
import { newShot, rackChange, seatBetween, shotChange, type Writing } from "../model/changes";
import {
  callSafety,
  changedFields,
  confirmed,
  freeBall,
  layoutAfter,
  pushOut,
  withAfter,
  withResult,
} from "../model/entry";
import { remember, turnBack, useHistory, type Done } from "../model/history";
import { keepDraft, putDown, say, useBench, useDrafts } from "../model/state";
import type { Workbench } from "../model/useWorkbench";

export type EntryActions = ReturnType<typeof entryActions>;

export function entryActions(bench: Workbench, writing: Writing) {
  const { game, found, entry, document, target, player } = bench;
  const now = () => Math.round(player.now() * 1000) / 1000;

  /** Written to the server, and remembered as the newest deed of this screen. */
  const write: Writing["change"] = (label, changes) => {
    writing.change(label, changes);
    remember({
      label,
      undo: () => {
        writing.reverse("undo");
      },
      redo: () => {
        writing.reverse("redo");
      },
    });
  };
  const edit = (wanted: ShotDocument, label: string) => {
    const next = confirmed(wanted, changedFields(document, wanted));
    useBench.setState({ asked: null });
    if (found) {
      const where = `rack ${String(found.index + 1)} shot ${String(found.rack.shots.indexOf(found.shot) + 1)}`;
      const { id, seat } = found.shot;
      write(`${label}, ${where}`, [shotChange(id, found.rack.id, seat, next)]);
    } else keep(timed(next), label);
  };
  const keep = (next: ShotDocument | null, label: string) => {
    const { key } = entry;
    const before = useDrafts.getState().drafts[key] ?? null;
    keepDraft(key, next);
    remember({
      label,
      undo: () => {
        keepDraft(key, before);
      },
      redo: () => {
        keepDraft(key, next);
      },
    });
  };
  /** A new entry begins at the picture that was on the screen. */
  const timed = (next: ShotDocument): ShotDocument =>
    bench.recording && !entry.found && next.time?.start == null
      ? { ...next, recording: bench.recordingIndex, time: { ...next.time, start: now() } }
      : next;
  const set = (patch: Partial<ShotDocument>, label: string) => {
    edit({ ...document, ...patch }, label);
  };

  /** Go there without ending what plays itself. */
  const show = (shot: string) => {
    writing.show({ shot });
    useBench.setState({ moment: "before", foundShot: null, doubts: [], chosen: null });
  };
  const goTo = (where: { shot?: string; rack?: number }) => {
    writing.show(where);
    useAsked.setState({
      option: null,
      ball: null,
      tried: null,
      drawing: null,
      settle: false,
      begin: [],
      order: false,
    });
    putDown();
    useBench.setState({
      chosen: null,
      moment: "before",
      foundShot: null,
      doubts: [],
      group: null,
      asked: null,
      insert: null,
      watching: null,
    });
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
    const { rack } = entry;
    const number = rack ? game.racks.indexOf(rack) + 1 : game.racks.length + 1;
    const before = rack?.shots.find((one) => one.id === bench.insert);
    write(
      before
        ? `a shot put into rack ${String(number)}`
        : `shot ${String((rack?.shots.length ?? 0) + 1)} of rack ${String(number)}`,
      rack && before
        ? [shotChange(crypto.randomUUID(), rack.id, seatBetween(rack, before), logging)]
        : newShot(game, rack, logging),
    );
    keepDraft(entry.key, null);
    putDown();
    useBench.setState({ moment: "before", chosen: null, group: null, asked: null, insert: null });
    writing.show({});
    say("Logged.");
  };
  const logEntry = () => {
    if (found) step(1);
    else if (game.winner && !bench.insert) say("The match is over.");
    else if (!happened(document))
      say("What happened? A result key first (m made, t thick, n thin, j jaws, g no pot meant).");
    else log(document);
  };
  const answer = (declared: string, more: Partial<ShotDocument> = {}) => {
    log({ player: document.player, declared: declared, ...more });
  };
  /** The rack ends here: given up by a player, or without a winner. */
  const endRack = (how: "A" | "B" | "closed") => {
    const rack = entry.rack ?? game.racks[game.racks.length - 1];
    if (!rack || rack.over) {
      say("No rack is open.");
      return;
    }
    const patch = how === "closed" ? { closed: true } : { conceded_by: how };
    const label = how === "closed" ? "ended without a winner" : `given up by ${how}`;
    write(label, [rackChange(game, rack, patch)]);
    keepDraft(game.id, null);
    writing.show({});
    say(`The rack is ${label}.`);
  };
  /** The lag before the rack, how it was measured. */
  const noteLag = (lag: Rack["document"]["lag"]) => {
    const rack = entry.rack ?? found?.rack;
    if (rack) write("lag", [rackChange(game, rack, { lag })]);
  };
  const remove = () => {
    if (!found) return;
    write("shot removed", [shotChange(found.shot.id, found.rack.id, found.shot.seat, null)]);
    goTo({ rack: found.index });
    say("The shot is removed; u has it back.");
  };
  /** A wrong place in the order: one shot earlier or later, also into the next rack. */
  const move = (by: -1 | 1) => {
    if (!found) return;
    const { rack, shot, index } = found;
    const at = rack.shots.indexOf(shot) + by;
    const [one, other] = by < 0 ? [rack.shots[at - 1], rack.shots[at]] : [rack.shots[at], rack.shots[at + 1]];
    const inside = at >= 0 && at < rack.shots.length;
    const neighbour = game.racks[index + by];
    if (inside) {
      const seat = ((one?.seat ?? (other?.seat ?? 0) - 1) + (other?.seat ?? (one?.seat ?? 0) + 1)) / 2;
      write("shot moved", [shotChange(shot.id, rack.id, seat, shot.document)]);
    } else if (neighbour) {
      const seats = neighbour.shots.map((other) => other.seat);
      const seat = by < 0 ? Math.max(-1, ...seats) + 1 : Math.min(1, ...seats) - 1;
      write("shot moved to another rack", [shotChange(shot.id, neighbour.id, seat, shot.document)]);
    } else say("There is nothing to move it past.");
  };
  const insertBefore = () => {
    if (!found) {
      say("Choose the shot before which one was forgotten.");
      return;
    }
    const { id } = found.shot;
    goTo({ rack: found.index });
    useBench.setState({ insert: id });
    say("The forgotten shot: say what happened, then Enter. Esc leaves it.");
  };
  const hole = (told: ShotDocument) => {
    log({ hole: true, ...told });
  };

  // What was meant and what happened
  const player_ = (side: "A" | "B", by?: "name" | "partner") => {
    set(by ? { player: side, by } : { player: side }, "player");
  };
  const otherPlayer = () => {
    player_(document.player === "A" ? "B" : "A");
  };
  const chooseMeant = (ball: string) => {
    set({ called: { ball, pocket: null } }, "ball meant");
  };
  /** A digit names a ball, or the next of its sort; in a game without places the first that is left. */
  const chooseByKey = (digit: number, shift: boolean) => {
    const known = entry.shot
      ? [...new Set([...entry.standing, ...Object.keys(entry.before)])]
      : entry.standing;
    const own = ballsOfKey(game.header.discipline, digit, shift, known);
    if (document.kind === "break" && !entry.shot) {
      const fallen = (document.potted ?? []).map((one) => one.ball);
      const next = own.find((ball) => !fallen.includes(ball)) ?? own[0];
      if (next) fell(next, !fallen.includes(next));
      else say("That ball is not on the table any more.");
      return;
    }
    const at = document.called ? own.indexOf(document.called.ball) : -1;
    const offered = at < 0 ? own.indexOf(target?.ball ?? "") : -1;
    const ball = own[at >= 0 ? (at + 1) % own.length : Math.max(0, offered)];
    if (ball) chooseMeant(ball);
    else say("That ball is not on the table any more.");
  };
  const choosePocket = (pocket: Pocket) => {
    if (!target) {
      say("Which ball? A digit names it.");
      return;
    }
    const potted = document.potted?.map((one) => (one.ball === target.ball ? { ...one, pocket } : one));
    set({ called: { ball: target.ball, pocket }, ...(potted ? { potted } : {}) }, "pocket meant");
  };
  const result = (what: ResultId) => {
    const next = withResult(entry, what, target);
    edit(next, what.replace("-", " "));
    if (entry.found) return;
    if (document.kind === "break") {
      say("A digit says what fell, then Enter.");
      return;
    }
    const places = Object.keys(entry.before).length > 0;
    const toPlace = places && !next.layout_after?.balls?.["cue"] && !next.scratch;
    useBench.setState({ moment: "after", tool: toPlace ? "place" : "look", placing: toPlace ? "cue" : null });
    say(toPlace ? "Click where the cue ball stopped; Enter logs it, also without." : "Enter logs it.");
  };
  const scratch = () => {
    const scratched = !document.scratch;
    const potted = (document.potted ?? []).map((one) => one.ball);
    const next: ShotDocument = { ...document, scratch: scratched };
    const known = document.kind === "break" ? {} : layoutAfter(entry, potted, scratched);
    edit(scratched ? withAfter(next, known) : next, "scratch");
    putDown();
  };
  const fell = (ball: string, falls: boolean) => {
    const others = (document.potted ?? []).filter((one) => one.ball !== ball);
    const potted = falls ? [...others, { ball, pocket: null }] : others;
    const after = document.layout_after?.balls;
    const balls = after && Object.fromEntries(Object.entries(after).filter(([name]) => name !== ball));
    const layout = falls && balls ? { layout_after: { ...document.layout_after, balls } } : {};
    set({ potted, ...layout }, "balls that fell");
    say(potted.length ? `Fell: ${potted.map((one) => one.ball).join(", ")}.` : "Nothing fell.");
  };
  const hitFirst = (sort: string | null) => {
    const first =
      sort === null ? null : (ofSort(entry.legal, sort)[0] ?? ofSort(entry.standing, sort)[0] ?? null);
    const seen = document.result ?? (document.kind === "break" ? undefined : "played");
    set(first === null ? { first_contact: null, result: seen } : { first_contact: first }, "ball hit first");
  };
  const pushOutOrSafety = () => {
    if (entry.up?.choices.includes("push-out") || document.declared === "push-out")
      set(pushOut(document), "push-out");
    else if (game.rules["call"]) set(callSafety(document), "safety called");
    else
      set({ intent: document.intent === "safety" ? "attack" : "safety", intent_source: "stated" }, "safety");
  };
  /** The next ball that may be nominated; after the last of them none. */
  const nextFreeBall = () => {
    const offered = (entry.up?.choices ?? [])
      .filter((one) => one.startsWith("free-ball:"))
      .map((one) => one.slice(10));
    const balls = offered.length ? offered : entry.standing.filter((ball) => !entry.legal.includes(ball));
    const ball = balls[balls.indexOf(freeBall(document) ?? "") + 1];
    set(
      { declared: ball ? `free-ball:${ball}` : null, ...(ball ? { called: { ball, pocket: null } } : {}) },
      "free ball",
    );
    say(ball ? `Free ball: the ${ball}. Again for the next.` : "No free ball.");
  };

  /** The last thing that was done on this screen; before that, what was written to this match. */
  const turn = (direction: "undo" | "redo") => {
    const deed = turnBack(direction);
    useBench.setState({ asked: null });
    if (deed) {
      putDown();
      say(`${direction === "undo" ? "Taken back" : "Done again"}: ${deed.label}.`);
    } else if (direction === "undo") {
      // done before this page was opened: taken back all the same, and it can be done again
      useHistory.setState(({ undone }) => ({ undone: [...undone, earlier(writing)] }));
      writing.reverse("undo");
    } else say("There is nothing to do again.");
  };

  return {
    write, edit, set, keep, show, goTo, step, log, logEntry, answer, endRack, noteLag, remove, move, insertBefore, hole,
    player: player_, otherPlayer, chooseMeant, chooseByKey, choosePocket, result, scratch, fell, hitFirst,
    pushOutOrSafety, freeBall: nextFreeBall, turn,
  }; // prettier-ignore
}

/** What was done on another day: the server knows what it was. */
const earlier = (writing: Writing): Done => ({
  label: "an earlier change",
  undo: () => {
    writing.reverse("undo");
  },
  redo: () => {
    writing.reverse("redo");
  },
});

/** Whether an entry says anything of what happened. */
function happened(document: ShotDocument): boolean {
  return (
    Boolean(document.declared) ||
    Boolean(document.hole) ||
    document.kind === "break" ||
    document.result != null ||
    Boolean(document.scratch) ||
    document.first_contact === null
  );
}
