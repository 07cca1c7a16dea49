/** The shots found in the recording, the one that is looked at, and what can be done with them. */
import { useOutline, useReadingWork, useRecordingReading, useStill } from "../../../api/readings";
import type { Correction, FoundShot, Game, Place, Places } from "../../../api/types";
import { rounded } from "../../../table/snap";
import { remember } from "../model/history";
import { say, useBench } from "../model/state";
import { changesFor, doubtsOf, isLogged, placesOf, type Taken } from "./document";

export function useFound(game: Game) {
  const { foundShot, moment, dragged } = useBench();
  const query = useRecordingReading(game.id);
  const work = useReadingWork(game.id);
  const still = useStill(game.id);
  const outline = useOutline();
  const reading = query.data;
  const shots = reading?.shots ?? [];
  const index = shots.findIndex((one) => one.id === foundShot);
  const shot = shots[index] ?? null;
  const seen = shot ? (moment === "before" ? shot.before : shot.after) : [];
  const settled: Places = placesOf(seen);
  const balls = dragged && shot ? { ...settled, [dragged.ball]: dragged.place } : settled;

  const takeBack = () => {
    work.takeBack.mutate(undefined, {
      onSuccess: () => {
        useBench.setState({ chosen: null }); // the name may be another ball's again
      },
      onError: (problem) => {
        say(problem.message);
      },
    });
  };
  const correct = (correction: Partial<Correction> & Pick<Correction, "do">, said: string) => {
    const ask = (words: string) => {
      work.correct.mutate(correction, {
        onSuccess: () => {
          say(words);
        },
        onError: (problem) => {
          say(problem.message);
        },
      });
    };
    ask(said);
    remember({
      label: said.replace(/[.;].*$/, "").toLowerCase(),
      undo: takeBack,
      redo: () => {
        ask(said);
      },
    });
  };
  const trackOf = (ball: string) => seen.find((one) => one.ball === ball)?.track ?? null;

  return {
    reading,
    error: query.error ?? work.begin.error ?? still.error ?? outline.error,
    busy: still.isPending || outline.isPending,
    shots,
    shot,
    index,
    balls,
    doubts: shot ? doubtsOf(seen) : [],
    isLogged: (one: FoundShot) => isLogged(game, reading?.recording ?? 0, one),
    begin: work.begin.mutate,
    stop: () => {
      work.stop.mutate();
    },
    still: still.mutateAsync,
    outline: outline.mutateAsync,
    changes: (some: Taken[]) => changesFor(game, some, reading?.recording ?? 0),
    next: (by: number) => shots[index < 0 ? 0 : index + by],
    nextDoubtful: () => {
      const later = [...shots.slice(index + 1), ...shots.slice(0, Math.max(0, index + 1))];
      return later.find((one) => one.doubtful && one.kind === "shot");
    },
    takeBack: () => {
      takeBack();
      say("Correction taken back.");
    },
    remove: () => {
      if (!shot) return;
      const next = shots[index + 1] ?? shots[index - 1];
      useBench.setState({ foundShot: next?.id ?? null, chosen: null });
      correct({ do: "delete", shot: shot.id }, "Taken off the strip; u brings it back.");
    },
    merge: () => {
      if (shot) correct({ do: "merge", shot: shot.id }, "Made one with the next.");
    },
    split: (at: number) => {
      if (shot) correct({ do: "split", shot: shot.id, at }, "Made two at this picture.");
    },
    add: (at: number) => {
      correct({ do: "add", at }, "A shot was added at this picture.");
    },
    setKind: (kind: FoundShot["kind"]) => {
      if (shot) correct({ do: "kind", shot: shot.id, kind }, kind === "shot" ? "Counted." : "Not counted.");
    },
    name: (ball: string, as: string) => {
      const track = trackOf(ball);
      if (track !== null) {
        correct({ do: "name", track, ball: as }, `It is the ${as}, here and wherever it is seen again.`);
        useBench.setState({ chosen: as });
      }
    },
    answer: (asked: { track: number }, ball: string) => {
      correct(
        { do: "name", track: asked.track, ball },
        `It is the ${ball}, here and wherever it is seen again.`,
      );
      useBench.setState({ chosen: null });
    },
    noBall: (ball: string) => {
      const track = trackOf(ball);
      if (track !== null) correct({ do: "remove", track }, "No ball: taken out of every layout.");
      useBench.setState({ chosen: null });
    },
    place: (ball: string, at: Place) => {
      const track = trackOf(ball);
      if (shot && track === null)
        correct({ do: "ball", shot: shot.id, side: moment, ball, place: at }, `The ${ball} was added here.`);
      else if (shot && track !== null)
        correct(
          { do: "place", shot: shot.id, side: moment, track, place: rounded(at), following: true },
          "Moved, and wherever it has not moved since.",
        );
    },
  };
}
