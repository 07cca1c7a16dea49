/** What is done with a recording's pictures and with the shots found in it. */
import type { FoundShot, Game, Marks, Place, Places } from "../../../api/types";
import { ballsOfKey } from "../../../games/discipline";
import { rounded } from "../../../table/snap";
import type { EntryActions } from "../actions/entry";
import { withEdge, withoutEdge } from "../model/marking";
import { headerChange } from "../model/changes";
import { agreed, foundKey } from "../model/entry";
import { keepDraft, say, useBench, useDrafts, type Moment } from "../model/state";
import type { Workbench } from "../model/useWorkbench";
import { doubtsOf, placesOf, type Taken } from "./document";

export type FoundActions = ReturnType<typeof foundActions>;

export function foundActions(
  bench: Workbench,
  { write, edit }: EntryActions,
  saveMarks: (marks: Marks) => void,
) {
  const { foundShots, player, recording, game } = bench;

  const lookAtFound = (shot: FoundShot, side: Moment = "before") => {
    useBench.setState({
      foundShot: shot.id,
      moment: side,
      chosen: null,
      tool: "look",
      placing: null,
      asked: null,
      group: null,
    });
    player.seek(side === "before" ? shot.start : shot.still);
    const unsure = doubtsOf(side === "before" ? shot.before : shot.after);
    say(unsure.length ? `Not sure of the ${unsure.join(", ")}: choose a ball, a digit names it.` : null);
  };
  const showAsked = () => {
    const asked = foundShots.reading?.question;
    const shot = foundShots.shots.find((one) => one.id === asked?.shot);
    if (!asked || !shot) return;
    lookAtFound(shot, asked.side);
    useBench.setState({ chosen: asked.ball });
    say(`Is it the ${asked.ball} or the ${asked.instead}? A digit names it.`);
  };
  /** As it is proposed, with what the coach has said over it; `nod`: he has looked and agrees. */
  const documentOf = (shot: FoundShot, nod: boolean) => {
    const draft = useDrafts.getState().drafts[foundKey(game.id, shot.id)];
    const document = draft ?? shot.proposal?.document;
    return document && (nod ? agreed(document) : document);
  };
  const take = (shots: FoundShot[], nod: boolean) => {
    const taken: Taken[] = shots.flatMap((shot) => {
      const document = documentOf(shot, nod);
      return document ? [{ shot, document }] : [];
    });
    const changes = foundShots.changes(taken);
    if (changes.length === 0) {
      say("These shots are in the log already.");
      return 0;
    }
    const count = changes.filter((one) => one.kind === "shot").length;
    write(count === 1 ? "shot found in the recording" : `${String(count)} shots found`, changes);
    for (const { shot } of taken) keepDraft(foundKey(game.id, shot.id), null);
    say(`${String(count)} shot${count === 1 ? "" : "s"} logged, layouts and times included.`);
    return count;
  };
  const fail = (problem: unknown) => {
    say(problem instanceof Error ? problem.message : "That did not work.");
  };
  const open = () => foundShots.shots.filter((one) => one.kind === "shot" && !foundShots.isLogged(one));
  const nextOpen = (after: FoundShot) =>
    foundShots.shots.find(
      (one) => one.start > after.start && one.kind === "shot" && !foundShots.isLogged(one),
    );

  return {
    lookAtFound,
    /** The first shot that is not in the log yet, or back to the log. */
    toFound: () => {
      const [first] = open();
      if (first) lookAtFound(first);
      else say("Every shot that was found is in the log.");
    },
    stepFound: (by: number) => {
      const next = foundShots.next(by);
      if (next) lookAtFound(next);
    },
    /** The table that the recording tells; words about its pace hold no longer. */
    useTable: (table: Game["header"]["table"]) => {
      const told = game.header.conditions;
      const conditions = typeof told === "object" ? { ...told, cloth: "usual", rails: "usual" } : told;
      write("table as its recording has it", [
        headerChange(game, { table, conditions } as Partial<Game["header"]>),
      ]);
      say("The match is reckoned on this table now; u takes it back.");
    },
    /** The ball that the question is about, in its shot and in a ring. */
    showAsked,
    nextDoubtful: () => {
      const asked = foundShots.reading?.question;
      if (asked && (foundShots.shot?.id !== asked.shot || bench.chosen !== asked.ball)) {
        showAsked();
        return;
      }
      const next = foundShots.nextDoubtful();
      if (next)
        lookAtFound(next, doubtsOf(next.before).length || !doubtsOf(next.after).length ? "before" : "after");
      else say("Nothing is doubtful.");
    },
    /** The sentence is right: it is the entry. */
    takeFound: () => {
      const { shot } = foundShots;
      if (!shot) return;
      if (!shot.proposal && !foundShots.isLogged(shot)) {
        say("Log the shots before it first: who plays it hangs on them.");
        return;
      }
      take([shot], true);
      const next = nextOpen(shot) ?? open().find((one) => one.id !== shot.id);
      if (next) lookAtFound(next);
      else useBench.setState({ foundShot: null });
    },
    /** All of this rack that are sure, up to the first that is not. */
    takeSure: () => {
      const from = foundShots.shot ?? open()[0];
      const rest = open().filter((one) => from && one.start >= from.start && one.rack === from.rack);
      const end = rest.findIndex((one) => !one.proposal?.sure);
      const sure = end < 0 ? rest : rest.slice(0, end);
      if (!sure.length) say("The next one is not sure: look at it.");
      else take(sure, false);
      const next = rest[sure.length];
      if (next) lookAtFound(next);
    },
    takeAllFound: () => {
      const known = open().filter((one) => one.proposal);
      const left = open().length - known.length;
      take(known, false);
      if (left) say(`${String(known.length)} logged; ${String(left)} more can be logged now.`);
      useBench.setState({ foundShot: null, chosen: null });
    },
    leaveFound: () => {
      useBench.setState({ foundShot: null, chosen: null, asked: null, group: null });
      say(null);
    },
    toggleKind: () => {
      foundShots.setKind(foundShots.shot?.kind === "shot" ? "replay" : "shot");
    },
    addFound: () => {
      foundShots.add(player.now());
    },
    removeFound: () => {
      if (bench.chosen) foundShots.noBall(bench.chosen);
      else foundShots.remove();
    },
    mergeFound: () => {
      foundShots.merge();
    },
    splitFound: () => {
      foundShots.split(player.now());
    },
    /** The chosen ball has this name. */
    nameFound: (ball: string) => {
      if (bench.chosen && bench.chosen !== ball) foundShots.name(bench.chosen, ball);
    },
    nameByKey: (digit: number, shift: boolean) => {
      const [name] = ballsOfKey(game.header.discipline, digit, shift, game.balls);
      if (bench.chosen && name) foundShots.name(bench.chosen, name);
    },
    /** Where a ball stood; one that was not seen is added. */
    placeFound: (ball: string, at: Place, done: boolean) => {
      useBench.setState({ dragged: done ? null : { ball, place: at } });
      if (done) foundShots.place(ball, rounded(at));
    },
    flicker: () => {
      useBench.setState(({ flicker }) => ({ flicker: !flicker }));
    },
    /** Read the balls of the picture on the screen and put them on the plan. */
    readStill: () => {
      if (!recording) return;
      say("Looking for balls …");
      foundShots
        .still({ recording: bench.recordingIndex, at: player.now() })
        .then(({ balls, racked }) => {
          const unsure = doubtsOf(balls);
          const places = Object.fromEntries<Place>(
            Object.entries(placesOf(balls)).map(([ball, at]) => [ball, rounded(at)]),
          );
          setLayout(places, Object.fromEntries(balls.map((one) => [one.ball, one.sigma])));
          useBench.setState({ doubts: unsure });
          say(
            `${String(balls.length)} balls${racked ? ", racked" : ""}${unsure.length ? `; not sure of the ${unsure.join(", ")}` : ""}.`,
          );
        })
        .catch(fail);
    },
    /** Where the table is, as far as the picture tells; marks that are there are moved onto edges. */
    suggestMarks: (onto: boolean) => {
      if (!recording) return;
      const told = bench.marks && withoutEdge(bench.marks);
      say(onto ? "Moving the marks onto edges …" : "Looking for the table …");
      foundShots
        .outline({
          sha256: recording.sha256,
          table: game.header.table ?? "pool-9ft",
          at: player.now(),
          marks: onto && told ? told.marks : null,
        })
        .then(({ marks }) => {
          saveMarks(withEdge(marks, told?.picture) ?? marks);
          say("A first guess: drag what is not right.");
        })
        .catch(fail);
    },
    readRecording: () => {
      foundShots.begin(
        { recording: bench.recordingIndex, begin: 0, marked_at: player.now() },
        { onError: fail },
      );
      say("Reading the recording; shots appear below as they are found.");
    },
    stopReading: () => {
      foundShots.stop();
    },
  };

  function setLayout(balls: Places, sigma: Record<string, number>) {
    const key = bench.moment === "before" ? ("layout_before" as const) : ("layout_after" as const);
    const { document } = bench;
    edit({ ...document, [key]: { ...document[key], balls, sigma } }, "balls read from the picture");
  }
}
