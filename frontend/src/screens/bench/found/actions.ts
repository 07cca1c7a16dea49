/** What is done with a recording's pictures and with the shots found in it. */
import { withEdge, withoutEdge } from "../marking";
import type { FoundShot, Marks, Place, Places } from "../../../api/types";
import { rounded } from "../../../table/snap";
import type { Writing } from "../changes";
import { say, useBench, type Moment } from "../state";
import type { Workbench } from "../useWorkbench";
import { doubtsOf, placesOf } from "./document";

interface Ways {
  change: Writing["change"];
  saveMarks: (marks: Marks) => void;
  setLayout: (balls: Places, sigma: Record<string, number>) => void;
}

export function foundActions(bench: Workbench, { change, saveMarks, setLayout }: Ways) {
  const { foundShots, player, recording } = bench;

  const lookAtFound = (shot: FoundShot, side: Moment = "before") => {
    useBench.setState({ foundShot: shot.id, moment: side, chosen: null, tool: "look", placing: null });
    player.seek(side === "before" ? shot.start : shot.still);
    const unsure = doubtsOf(side === "before" ? shot.before : shot.after);
    say(unsure.length ? `Not sure of the ${unsure.join(", ")}: click a ball, a digit names it.` : null);
  };
  const take = (shots: FoundShot[]) => {
    const changes = foundShots.changes(shots);
    if (changes.length === 0) {
      say("These shots are in the log already.");
      return;
    }
    const count = changes.filter((one) => one.kind === "shot").length;
    change(count === 1 ? "shot found in the recording" : `${String(count)} shots found`, changes);
    say(`${String(count)} shot${count === 1 ? "" : "s"} logged, layouts and times included.`);
  };
  const fail = (problem: unknown) => {
    say(problem instanceof Error ? problem.message : "That did not work.");
  };

  return {
    lookAtFound,
    lookAtSide: (side: Moment) => {
      if (foundShots.shot) lookAtFound(foundShots.shot, side);
    },
    stepFound: (by: number) => {
      const next = foundShots.next(by);
      if (next) lookAtFound(next);
    },
    nextDoubtful: () => {
      const next = foundShots.nextDoubtful();
      if (next)
        lookAtFound(next, doubtsOf(next.before).length || !doubtsOf(next.after).length ? "before" : "after");
      else say("Nothing is doubtful.");
    },
    takeFound: () => {
      if (!foundShots.shot) return;
      take([foundShots.shot]);
      const next = foundShots.next(1);
      if (next) lookAtFound(next);
    },
    takeAllFound: () => {
      take(foundShots.shots);
      useBench.setState({ foundShot: null, chosen: null });
    },
    toggleKind: () => {
      foundShots.setKind(foundShots.shot?.kind === "shot" ? "replay" : "shot");
    },
    addFound: () => {
      foundShots.add(player.time);
    },
    flicker: () => {
      useBench.setState(({ flicker }) => ({ flicker: !flicker }));
    },
    /** Read the balls of the picture on the screen and put them on the plan. */
    readStill: () => {
      if (!recording) return;
      say("Looking for balls …");
      foundShots
        .still({ recording: bench.recordingIndex, at: player.time })
        .then(({ balls, racked }) => {
          const unsure = doubtsOf(balls);
          setLayout(
            Object.fromEntries<Place>(
              Object.entries(placesOf(balls)).map(([ball, at]) => [ball, rounded(at)]),
            ),
            Object.fromEntries(balls.map((one) => [one.ball, one.sigma])),
          );
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
          table: bench.game.header.table ?? "pool-9ft",
          at: player.time,
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
        { recording: bench.recordingIndex, begin: 0, marked_at: player.time },
        { onError: fail },
      );
      say("Reading the recording; shots appear below as they are found.");
    },
  };
}
