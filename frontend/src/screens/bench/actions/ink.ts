/** Drawing by hand on picture and plan: by pressing and dragging, by two clicks, or by keys alone. */
import type { Place } from "../../../api/types";
import { INKS, KINDS, anchorsOf, snapped, type Drawing, type Kind } from "../../../table/ink";
import { rounded } from "../../../table/snap";
import type { Stroke } from "../../../table/TableDrawing";
import { putDown, say, useBench, type Pen } from "../model/state";
import type { Workbench } from "../model/useWorkbench";
import type { EntryActions } from "./entry";

const DRAGGED = 0.03; // m: a press that went less far was a click, and the second click ends the line
const STEP = 0.005; // m that an arrow key moves the pen; with Shift an eighth of a diamond
const MOST = 200; // drawings on a shot, as the format has it

export function inkActions(bench: Workbench, { edit }: EntryActions) {
  const { game, document } = bench;
  const drawings = document.drawings ?? [];
  const pen = () => useBench.getState().pen;
  const set = (next: Partial<Pen>) => {
    useBench.setState((state) => ({ pen: { ...state.pen, ...next } }));
  };

  /** Take the pen; again: the next kind. */
  const startInk = () => {
    const { tool, pen: held } = useBench.getState();
    takePen(tool === "ink" ? (KINDS[(KINDS.indexOf(held.kind) + 1) % KINDS.length] ?? "line") : held.kind);
  };
  const takePen = (kind: Kind) => {
    putDown();
    useBench.setState({ tool: "ink", chosen: null });
    set({ kind, points: [], at: null });
    say(
      kind === "area"
        ? "An area: click its corners, Enter closes it; 1 2 3 change the ink."
        : `${kind === "arrow" ? "An" : "A"} ${kind}: drag, or click both ends; 1 2 3 change the ink, i the kind.`,
    );
  };
  const setInk = (number: number) => {
    const ink = INKS[number - 1];
    if (ink) set({ ink });
  };
  const finish = (points: Place[]) => {
    set({ points: [], at: null });
    if (drawings.length >= MOST) {
      say(`No more than ${String(MOST)} drawings on one shot: k takes the newest off.`);
      return;
    }
    const { kind, ink } = pen();
    const drawing: Drawing = { kind, points: points.map(rounded), ink };
    edit({ ...document, drawings: [...drawings, drawing] }, `${kind} drawn`);
    say("Drawn; k takes it off.");
  };
  /** A point that is set: it begins the drawing, goes on with it, or ends it. */
  const setPoint = (at: Place) => {
    const { kind, points } = pen();
    const all = [...points, at];
    if (kind !== "area" && all.length === 2) finish(all);
    else set({ points: all, at: null });
  };
  const closeArea = () => {
    const { kind, points, at } = pen();
    if (kind === "area" && points.length > 2 && !at) finish(points);
    else if (at) setPoint(at);
    else say("Nothing is begun: click, or choose a ball or a pocket with . and ,");
  };
  const stroke = (wanted: Place, how: Stroke) => {
    const { place, to } = snapped(game.table, bench.shown, wanted);
    const { kind, points } = pen();
    const [first] = points;
    if (how === "move") set({ at: place });
    else if (how === "down") {
      setPoint(place);
      if (to) say(`At ${to}.`);
    } else if (first && points.length === 1 && kind !== "area") {
      if (Math.hypot(first[0] - place[0], first[1] - place[1]) > DRAGGED) finish([first, place]);
    }
  };
  /** By keys: the balls and pockets one after the other. */
  const nextAnchor = (by: 1 | -1) => {
    const all = anchorsOf(game.table, bench.shown);
    const { at } = pen();
    const here = all.findIndex((one) => one.place[0] === at?.[0] && one.place[1] === at[1]);
    const next = all[(here + by + all.length + (here < 0 && by < 0 ? 1 : 0)) % all.length];
    if (!next) return;
    set({ at: next.place });
    say(`At ${next.to}: Enter sets it, arrows move it.`);
  };
  const movePen = (along: number, across: number, far: boolean) => {
    const { at, points } = pen();
    const from = at ?? points[points.length - 1] ?? [game.table.length / 2, game.table.width / 2];
    const step = far ? game.table.length / 64 : STEP;
    set({ at: [from[0] + along * step, from[1] + across * step] });
  };
  const takeInkOff = () => {
    if (pen().points.length) set({ points: [], at: null });
    else if (!drawings.length) say("Nothing is drawn on this shot.");
    else edit({ ...document, drawings: drawings.slice(0, -1) }, "drawing taken off");
  };
  const takeAllInkOff = () => {
    if (drawings.length) edit({ ...document, drawings: [] }, "all drawings taken off");
  };
  return { startInk, takePen, setInk, stroke, closeArea, nextAnchor, movePen, takeInkOff, takeAllInkOff };
}
