/** Everything that can be done at the bench, once: its name, its key, when it is possible. The keyboard, the list of
 * keys and the command line all read this. */
import { disciplineOf } from "../../../games/discipline";
import { POCKETS, RESULTS } from "../../../words";
import type { Actions } from "../actions";
import { useAsked } from "../choices/state";
import { answersOf } from "../model/asked";
import { foldedOf, itemsOf } from "../model/groups";
import { open, putDown, say, useBench } from "../model/state";
import { nextView, wholeScreen } from "../model/views";
import type { Workbench } from "../model/useWorkbench";

export interface Command {
  name: string;
  /** As the browser names it; none: only by its name. */
  key?: string;
  /** As it is shown. */
  shown?: string;
  section: "Shot" | "Result" | "Answer" | "Folded" | "Table" | "Found" | "Recording" | "Match" | "Bench";
  run: (shift: boolean) => void;
}

const ZONE_STEP = 0.02;

const ARROWS: Record<string, string> = { ArrowUp: "↑", ArrowDown: "↓", ArrowLeft: "←", ArrowRight: "→" };

/** All that is possible now. */
export function commandsOf(bench: Workbench, actions: Actions): Command[] {
  const { tool, group } = useBench.getState();
  if (tool === "mark") return [...marking(actions), ...film(bench, actions), ...bench_(bench, actions)];
  const folded = group ? letters(bench, actions) : [];
  const drawing = tool === "zone" ? zone(actions) : tool === "ink" ? ink(actions) : [];
  return [
    ...folded,
    ...drawing,
    ...(bench.chosen ? moving(bench, actions) : []),
    ...(bench.foundShots.shot ? found(bench, actions) : []),
    ...shot(bench, actions),
    ...table(bench, actions),
    ...film(bench, actions),
    ...match(bench, actions),
    ...bench_(bench, actions),
  ];
}

/** What a key does now: the first that has it, as they are listed. */
export function commandFor(
  { key, code }: { key: string; code: string },
  bench: Workbench,
  actions: Actions,
): Command["run"] | undefined {
  const all = commandsOf(bench, actions);
  const own = all.find((one) => one.key === key);
  if (own?.section === "Folded" && useBench.getState().group) return own.run;
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(code)?.[1] ?? /^(\d)$/.exec(key)?.[1];
  if (digit) {
    const naming = bench.entry.found !== null && bench.chosen !== null;
    const { tool } = useBench.getState();
    return (shift) => {
      if (tool === "ink") actions.setInk(Number(digit));
      else if (tool === "zone") actions.zoneForKey(Number(digit), shift);
      else if (naming) actions.nameByKey(Number(digit), shift);
      else actions.chooseByKey(Number(digit), shift);
    };
  }
  return own?.run;
}

const does =
  (act: () => void): Command["run"] =>
  () => {
    act();
  };

/** The letters of the group that lies open. */
function letters({ game, entry }: Workbench, actions: Actions): Command[] {
  const { group } = useBench.getState();
  if (!group) return [];
  return [
    ...itemsOf(group, game, entry, actions).map((item): Command => ({
      name: `${item.line}: ${item.words}`,
      key: item.letter,
      section: "Folded",
      run: does(item.run),
    })),
    { name: "fold it up", key: "Escape", shown: "Esc", section: "Folded", run: does(() => { useBench.setState({ group: null }); }) }, // prettier-ignore
  ];
}

function shot(bench: Workbench, actions: Actions): Command[] {
  const { game, entry } = bench;
  const discipline = disciplineOf(game.header.discipline);
  const answers = entry.shot ? [] : answersOf(game, entry, actions);
  return [
    { name: discipline.keys[1], shown: discipline.keys[0], section: "Shot", run: does(() => { say("Press the digit of the ball."); }) }, // prettier-ignore
    ...POCKETS.map((one): Command => ({
      name: `pocket ${discipline.pockets[one.name]}`,
      key: one.key,
      section: "Shot",
      run: does(() => { actions.choosePocket(one.name); }), // prettier-ignore
    })),
    ...RESULTS.map((one): Command => ({
      name: one.words,
      key: one.key,
      section: "Result",
      run: does(() => { actions.result(one.id); }), // prettier-ignore
    })),
    { name: discipline.scratch, key: "c", section: "Result", run: does(actions.scratch) },
    {
      name: "push-out when allowed, else a safety",
      key: "x",
      section: "Shot",
      run: does(actions.pushOutOrSafety),
    },
    { name: "the other player", key: "P", shown: "⇧P", section: "Shot", run: does(actions.otherPlayer) },
    ...answers
      .filter((one) => one.id !== "push-out")
      .map((one): Command => ({
        name: one.words,
        key: one.id === "free-ball" && entry.found ? undefined : one.key,
        shown: one.key && /[A-Z]/.test(one.key) ? `⇧${one.key}` : one.key,
        section: "Answer",
        run: does(one.run),
      })),
    ...foldedOf(game, entry).map((one): Command => ({
      name: one.title,
      key: one.key,
      shown: /[A-Z]/.test(one.key) ? `⇧${one.key}` : one.key,
      section: "Folded",
      run: does(() => {
        useBench.setState({ group: useBench.getState().group === one.group ? null : one.group });
      }),
    })),
    {
      name: entry.shot ? "the next shot" : "log the shot and go on",
      key: "Enter",
      section: "Result",
      run: does(actions.logEntry),
    },
  ];
}

/** While a shot that was found in the recording is looked at. */
function found(bench: Workbench, actions: Actions): Command[] {
  const { chosen, foundShots } = bench;
  return [
    {
      name: "agree: log it, and the next one",
      key: "Enter",
      shown: "↵, ⇧↵",
      section: "Found",
      run: (shift) => {
        if (shift) actions.takeSure();
        else actions.takeFound();
      },
    },
    ...(chosen ? [{ name: "it is the cue ball", key: "c", section: "Found" as const, run: does(() => { actions.nameFound("cue"); }) }] : []), // prettier-ignore
    {
      name: chosen ? "no ball" : "take it off the strip",
      key: "Delete",
      section: "Found",
      run: does(actions.removeFound),
    },
    { name: "one with the next", key: "M", shown: "⇧M", section: "Found", run: does(actions.mergeFound) },
    {
      name: "two, split at this picture",
      key: "S",
      shown: "⇧S",
      section: "Found",
      run: does(actions.splitFound),
    },
    { name: "a shot or none", key: "X", shown: "⇧X", section: "Found", run: does(actions.toggleKind) },
    { name: "take the last correction back", key: "Z", shown: "⇧Z", section: "Found", run: does(() => { foundShots.takeBack(); }) }, // prettier-ignore
    { name: "the found shot after it", key: "ArrowDown", shown: "↓", section: "Found", run: does(() => { actions.stepFound(1); }) }, // prettier-ignore
    { name: "the found shot before it", key: "ArrowUp", shown: "↑", section: "Found", run: does(() => { actions.stepFound(-1); }) }, // prettier-ignore
    { name: "back to the log", key: "Escape", shown: "Esc", section: "Found", run: does(actions.leaveFound) },
  ];
}

/** The arrows move something along and across the table. */
const overTheTable = (what: string, move: (along: number, across: number, far: boolean) => void): Command[] =>
  (
    [
      ["to the foot", "ArrowRight", 1, 0],
      ["to the head", "ArrowLeft", -1, 0],
      ["to the left", "ArrowUp", 0, 1],
      ["to the right", "ArrowDown", 0, -1],
    ] as const
  ).map(([where, key, along, across]) => ({
    name: `move ${what} ${where}`,
    key,
    shown: ARROWS[key],
    section: "Table",
    run: (shift) => {
      move(along, across, shift);
    },
  }));

/** While a ball is chosen the arrows move it. */
function moving(_: Workbench, actions: Actions): Command[] {
  return [
    ...overTheTable("the chosen ball", actions.nudge),
    { name: "let the chosen ball go", key: "Escape", shown: "Esc", section: "Table", run: does(() => { useBench.setState({ chosen: null }); say(null); }) }, // prettier-ignore
  ];
}

function zone(actions: Actions): Command[] {
  return [
    { name: "close the outline", key: "Enter", section: "Table", run: does(() => { actions.finishZone(); }) }, // prettier-ignore
    { name: "the zone is for a safety; a digit says for which ball", key: "g", section: "Table", run: does(() => { actions.zoneFor("safety"); }) }, // prettier-ignore
    { name: "a corner by two diamond figures", key: "y", section: "Table", run: does(() => { open("diamonds"); }) }, // prettier-ignore
  ];
}

/** With the pen in hand. */
function ink(actions: Actions): Command[] {
  return [
    { name: "set the point; close the area", key: "Enter", section: "Table", run: does(actions.closeArea) },
    { name: "the pen to the next ball or pocket", key: ".", shown: ".", section: "Table", run: does(() => { actions.nextAnchor(1); }) }, // prettier-ignore
    { name: "the pen to the one before it", key: ",", section: "Table", run: does(() => { actions.nextAnchor(-1); }) }, // prettier-ignore
    ...(["dark", "red", "blue"] as const).map((name, at): Command => ({
      name: `${name} ink`,
      shown: String(at + 1),
      section: "Table",
      run: does(() => { actions.setInk(at + 1); }), // prettier-ignore
    })),
    ...overTheTable("the pen", actions.movePen),
    { name: "take the newest drawing off", key: "Delete", shown: "Del", section: "Table", run: does(actions.takeInkOff) }, // prettier-ignore
  ];
}

function table(
  { chosen, target, moment, foundShots, found: logged }: Workbench,
  actions: Actions,
): Command[] {
  const commands: Command[] = [
    { name: "place balls one after the other", key: "p", section: "Table", run: does(actions.startPlacing) },
    { name: "next ball on the table", key: ".", shown: ".", section: "Table", run: does(() => { actions.chooseNext(1); }) }, // prettier-ignore
    { name: "ball before it", key: ",", section: "Table", run: does(() => { actions.chooseNext(-1); }) }, // prettier-ignore
    { name: "the chosen ball by two diamond figures", key: "y", section: "Table", run: does(() => { open("diamonds"); }) }, // prettier-ignore
    { name: "target zone; again: another shape", key: "z", section: "Table", run: does(() => { actions.startZone("cue"); }) }, // prettier-ignore
    { name: "which end of the zone is better", key: "o", section: "Table", run: does(actions.betterEnd) },
    { name: "zone smaller", key: "-", shown: "−", section: "Table", run: does(() => { actions.resizeZone(-ZONE_STEP); }) }, // prettier-ignore
    { name: "zone larger", key: "+", section: "Table", run: does(() => { actions.resizeZone(ZONE_STEP); }) }, // prettier-ignore
    { name: "last leg: click where it began", key: "r", section: "Table", run: does(actions.startRoute) },
    {
      name: "draw by hand; again: another kind of line",
      key: "i",
      section: "Table",
      run: does(actions.startInk),
    },
    { name: "take the newest drawing off", key: "k", section: "Table", run: does(actions.takeInkOff) },
    { name: "take all drawings off", section: "Table", run: does(actions.takeAllInkOff) },
    { name: "before and after the shot", key: "b", section: "Table", run: does(() => { actions.look(moment === "before" ? "after" : "before"); }) }, // prettier-ignore
  ];
  if (!foundShots.shot)
    commands.push(
      { name: "target zone of the object ball", key: "Z", shown: "⇧Z", section: "Table", run: does(() => { actions.startZone(chosen && chosen !== "cue" ? chosen : target?.ball); }) }, // prettier-ignore
      {
        name: "take the chosen ball off",
        key: "Delete",
        shown: "Del",
        section: "Table",
        run: does(actions.takeOff),
      },
      { name: "a shot was forgotten before this one", key: "I", shown: "⇧I", section: "Match", run: does(actions.insertBefore) }, // prettier-ignore
    );
  if (logged)
    commands.push(
      { name: "overrule the referee", section: "Match", run: does(() => { open("overrule"); }) }, // prettier-ignore
      { name: "remove this shot", section: "Match", run: does(actions.remove) },
      { name: "move this shot earlier", key: "{", section: "Match", run: does(() => { actions.move(-1); }) }, // prettier-ignore
      { name: "move this shot later", key: "}", section: "Match", run: does(() => { actions.move(1); }) }, // prettier-ignore
    );
  return commands;
}

function film({ recording, foundShots }: Workbench, actions: Actions): Command[] {
  if (!recording) return [];
  const commands: Command[] = [
    {
      name: "watch the match: no waiting, a halt at each still picture",
      key: ";",
      section: "Recording",
      run: does(actions.watch),
    },
    { name: "play and pause", key: " ", shown: "Space", section: "Recording", run: does(actions.toggle) },
    { name: "a picture on; with Shift a second", key: "ArrowRight", shown: "→", section: "Recording", run: (shift) => { if (shift) actions.seconds(1); else actions.frames(1); } }, // prettier-ignore
    { name: "a picture back; with Shift a second", key: "ArrowLeft", shown: "←", section: "Recording", run: (shift) => { if (shift) actions.seconds(-1); else actions.frames(-1); } }, // prettier-ignore
    { name: "slower", key: "<", shown: "<", section: "Recording", run: does(() => { actions.faster(-1); }) }, // prettier-ignore
    { name: "faster", key: ">", section: "Recording", run: does(() => { actions.faster(1); }) }, // prettier-ignore
    { name: "loop this shot", key: "v", section: "Recording", run: does(() => { useBench.setState((state) => ({ looping: !state.looping })); }) }, // prettier-ignore
    { name: "mark the still picture", key: "[", shown: "[", section: "Recording", run: does(() => { actions.markTime("start"); }) }, // prettier-ignore
    { name: "mark the contact", key: "\\", section: "Recording", run: does(() => { actions.markTime("contact"); }) }, // prettier-ignore
    { name: "mark the standstill", key: "]", section: "Recording", run: does(() => { actions.markTime("still"); }) }, // prettier-ignore
    { name: "mark the table in the picture", section: "Recording", run: does(actions.mark) },
    {
      name: "read the balls of this picture",
      key: "R",
      shown: "⇧R",
      section: "Recording",
      run: does(actions.readStill),
    },
    { name: "find the shots of the recording", section: "Recording", run: does(actions.readRecording) },
    {
      name: "picture and drawn layout in turn",
      key: "D",
      shown: "⇧D",
      section: "Recording",
      run: does(actions.flicker),
    },
  ];
  if (foundShots.shots.length)
    commands.push(
      {
        name: "to the first found shot that is not logged",
        key: "'",
        section: "Found",
        run: does(actions.toFound),
      },
      { name: "next doubtful found shot", key: '"', section: "Found", run: does(actions.nextDoubtful) },
      { name: "a shot that was not found, at this picture", key: "N", shown: "⇧N", section: "Found", run: does(actions.addFound) }, // prettier-ignore
      { name: "log all that were found", section: "Found", run: does(actions.takeAllFound) },
    );
  return commands;
}

function match({ game }: Workbench, actions: Actions): Command[] {
  const people = game.header.players as Record<string, { name?: string }> | undefined;
  const { rack } = disciplineOf(game.header.discipline);
  const sides = game.header.session === "solo" ? (["A"] as const) : (["A", "B"] as const);
  return [
    { name: "the lag, and how near the break's balls came", section: "Match", run: does(() => { open("break"); }) }, // prettier-ignore
    {
      name: "about the match: players, day, place, conditions",
      section: "Match",
      run: does(() => {
        open("about");
      }),
    },
    { name: "make the shot an exercise", key: "E", shown: "⇧E", section: "Match", run: does(actions.practise) }, // prettier-ignore
    { name: "where was this shot before?", key: "B", shown: "⇧B", section: "Match", run: does(() => { open("alike"); }) }, // prettier-ignore
    { name: "a stretch was not seen", key: "S", shown: "⇧S", section: "Match", run: does(() => { open("hole"); }) }, // prettier-ignore
    ...sides.map((side): Command => ({
      name: `${people?.[side]?.name ?? side} gives this ${rack} up`,
      section: "Match",
      run: does(() => { actions.endRack(side); }), // prettier-ignore
    })),
    { name: `end this ${rack} without a winner`, section: "Match", run: does(() => { actions.endRack("closed"); }) }, // prettier-ignore
    { name: "choose a recording", section: "Recording", run: does(() => { open("recordings"); }) }, // prettier-ignore
  ];
}

function marking(actions: Actions): Command[] {
  const arrow = (name: string, key: string, right: number, down: number): Command => ({
    name: `mark ${name}; with Shift further`,
    key,
    shown: ARROWS[key],
    section: "Table",
    run: (shift) => { actions.moveMark(right, down, shift); }, // prettier-ignore
  });
  return [
    { name: "next mark", key: ".", shown: ".", section: "Table", run: does(() => { actions.nextMark(1); }) }, // prettier-ignore
    { name: "mark before it", key: ",", section: "Table", run: does(() => { actions.nextMark(-1); }) }, // prettier-ignore
    arrow("right", "ArrowRight", 1, 0),
    arrow("left", "ArrowLeft", -1, 0),
    arrow("up", "ArrowUp", 0, -1),
    arrow("down", "ArrowDown", 0, 1),
    {
      name: "take the mark away",
      key: "Delete",
      shown: "Del",
      section: "Table",
      run: does(actions.removeMark),
    },
    { name: "suggest the marks", section: "Table", run: does(() => { actions.suggestMarks(false); }) }, // prettier-ignore
    { name: "move the marks onto edges", section: "Table", run: does(() => { actions.suggestMarks(true); }) }, // prettier-ignore
    { name: "add pockets", section: "Table", run: does(() => { actions.markMore("pocket"); }) }, // prettier-ignore
    { name: "add diamonds", section: "Table", run: does(() => { actions.markMore("sight"); }) }, // prettier-ignore
    { name: "the picture's edge", section: "Table", run: does(actions.markEdge) },
    { name: "turn head and foot", key: "h", section: "Table", run: does(actions.turnRound) },
    { name: "a new view from here", section: "Table", run: does(actions.newView) },
    { name: "done marking", key: "Enter", section: "Table", run: does(actions.mark) },
    { name: "done marking", key: "Escape", shown: "Esc", section: "Table", run: does(actions.mark) },
  ];
}

function bench_({ choosing }: Workbench, actions: Actions): Command[] {
  const commands: Command[] = [
    { name: "what should be played here", key: "C", shown: "⇧C", section: "Bench", run: does(() => { useAsked.setState((state) => ({ open: !state.open, option: null, ball: null, drawing: null })); }) }, // prettier-ignore
    { name: "the verdict: where it was won and lost", key: "J", shown: "⇧J", section: "Bench", run: does(actions.verdict) }, // prettier-ignore
    {
      name: "picture and plan, the picture alone, the plan alone",
      key: "=",
      section: "Bench",
      run: does(nextView),
    },
    { name: "the whole screen, and back", key: "*", section: "Bench", run: does(wholeScreen) },
    { name: "the plan in a window of its own", section: "Bench", run: does(actions.planWindow) },
    { name: "next shot", key: "ArrowDown", shown: "↓", section: "Bench", run: does(() => { actions.step(1); }) }, // prettier-ignore
    { name: "shot before", key: "ArrowUp", shown: "↑", section: "Bench", run: does(() => { actions.step(-1); }) }, // prettier-ignore
    { name: "undo", key: "u", shown: "u", section: "Bench", run: does(() => { actions.turn("undo"); }) }, // prettier-ignore
    { name: "redo", key: "U", shown: "⇧U", section: "Bench", run: does(() => { actions.turn("redo"); }) }, // prettier-ignore
    { name: "put the tool down", key: "Escape", shown: "Esc", section: "Bench", run: does(() => { putDown(); say(null); useBench.setState({ asked: null, insert: null, group: null, watching: null }); }) }, // prettier-ignore
    { name: "say what to do: every command by its name", key: "/", section: "Bench", run: does(() => { open("commands"); }) }, // prettier-ignore
    { name: "what is possible now", key: "?", section: "Bench", run: does(() => { open("keys"); }) }, // prettier-ignore
  ];
  if (choosing)
    commands.push({ name: "the map behind the table", key: "M", shown: "⇧M", section: "Bench", run: does(() => { useAsked.setState((state) => ({ map: !state.map })); }) }); // prettier-ignore
  return commands;
}
