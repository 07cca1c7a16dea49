/** The recording: which one, where it is, and the table in its picture. */
import type { Marks, Recording } from "../../../api/types";
import { headerChange } from "../model/changes";
import {
  firstEdge,
  firstMarks,
  turned,
  withEdge,
  withMarks,
  withMore,
  withView,
  withoutEdge,
} from "../model/marking";
import { open, putDown, say, useBench, type Moment } from "../model/state";
import type { Workbench } from "../model/useWorkbench";
import { legsOf } from "../model/watching";
import type { EntryActions } from "./entry";

export type Time = "start" | "contact" | "still";

const ORDER: Time[] = ["start", "contact", "still"];
const WORDS: Record<Time, string> = {
  start: "the still picture before it",
  contact: "the contact",
  still: "the standstill",
};

export function filmActions(bench: Workbench, { write, set }: EntryActions) {
  const { game, document, player, found } = bench;
  const now = () => Math.round(player.now() * 1000) / 1000;

  /** Turn to before or after the shot; a logged shot's picture goes there too. */
  const look = (to: Moment) => {
    useBench.setState({ moment: to });
    const time = to === "before" ? document.time?.start : document.time?.still;
    if ((found || bench.entry.found) && time != null) player.seek(time);
  };
  /** The times of a shot stand in their order: what would break it is refused, in words. */
  const markTime = (which: Time) => {
    if (!player.frames) {
      say("The recording is not ready yet.");
      return;
    }
    const at = now();
    const times = document.time ?? {};
    const wrong = ORDER.find((other) => {
      const there = times[other];
      if (other === which || there == null) return false;
      return ORDER.indexOf(other) < ORDER.indexOf(which) ? there > at : there < at;
    });
    if (wrong) {
      const [one, other] = ORDER.indexOf(wrong) < ORDER.indexOf(which) ? ["before", wrong] : ["after", wrong];
      say(`Not marked: ${WORDS[which]} would be ${one} ${WORDS[other]}.`);
      return;
    }
    set({ recording: bench.recordingIndex, time: { ...times, [which]: at } }, `${which} marked`);
    say(`Marked: ${WORDS[which]} at ${at.toFixed(2)} s.`);
  };
  const recordings = (label: string, next: typeof bench.entries) => {
    write(label, [headerChange(game, { recordings: next })]);
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
      useBench.setState({
        tool: "mark",
        marks: bench.marks ?? firstMarks(bench.recording.probe),
        mark: null,
      });
      say(
        "Drag each corner to where the nose lines of two rails meet, or , and . choose one and the arrows move it.",
      );
    }
  };
  const nextMark = (by: 1 | -1) => {
    const names = Object.keys(bench.marks ?? {});
    const at = names.indexOf(useBench.getState().mark ?? "");
    const mark = names[(at + by + names.length) % Math.max(1, names.length)] ?? null;
    useBench.setState({ mark });
    if (mark)
      say(
        `${mark.replace(":", ", ").replace("-", " ")}: arrows move it, with Shift further, Delete takes it away.`,
      );
  };
  const moveMark = (right: number, down: number, far: boolean) => {
    const { mark } = useBench.getState();
    const at = mark ? bench.marks?.[mark] : undefined;
    if (!mark || !at || !bench.marks) return;
    const step = far ? 10 : 1;
    saveMarks({ ...bench.marks, [mark]: [at[0] + right * step, at[1] + down * step] });
  };
  const removeMark = () => {
    const { mark } = useBench.getState();
    if (!mark || !bench.marks) return;
    saveMarks(Object.fromEntries(Object.entries(bench.marks).filter(([name]) => name !== mark)));
    useBench.setState({ mark: null });
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
  const toggle = () => {
    const { watching } = useBench.getState();
    if (!watching) player.toggle();
    else
      useBench.setState({ watching: { ...watching, phase: watching.phase === "runs" ? "stopped" : "runs" } });
  };
  /** The match plays itself from the shot on that is looked at; again: it stops. */
  const watch = () => {
    const legs = legsOf(game, bench.recordingIndex);
    const at = Math.max(
      0,
      legs.findIndex((leg) => leg.shot === found?.shot.id),
    );
    if (useBench.getState().watching) {
      useBench.setState({ watching: null });
      player.stop();
      say(null);
    } else if (!bench.recording || !legs.length) say("No shot has a moment in the recording yet.");
    else {
      useBench.setState({ watching: { at, phase: "halts" } });
      say("Watching: Space goes on and stops, ; ends it.");
    }
  };
  const planWindow = () => {
    const own = window.open(`/match/${game.id}/plan`, `plan-${game.id}`, "popup,width=1000,height=620");
    say(
      own
        ? "The plan has a window of its own: put it on the other screen."
        : "The browser kept the window shut: allow it for this page.",
    );
  };
  const frames = (by: number) => {
    player.step(by);
  };
  const seconds = (by: number) => {
    player.jump(by);
  };
  const faster = (by: number) => {
    player.faster(by);
  };

  return {
    look, markTime, link, saveMarks, mark, nextMark, moveMark, removeMark, markMore, markEdge, turnRound, newView,
    toggle, watch, planWindow, frames, seconds, faster,
  }; // prettier-ignore
}
