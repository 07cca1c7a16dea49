/** What lies in the shot lab: a layout on a table, a stroke, a hand. Lives as long as its page. */
import type { Game, Lab, Place, Places, Pocket, Shot, SimulateRequest, Table } from "../../api/types";

export interface LabState {
  table: unknown;
  drawn: Table;
  discipline: string;
  balls: Places;
  state: Record<string, unknown>;
  at: string | null;
  pocket: Pocket | null;
  part: string;
  aim: number;
  speed: number;
  side: number;
  height: number;
  elevation: number;
  hand: string;
  physics: Record<string, number>;
}

export type Patch = Partial<LabState>;

/** What every panel of the lab is given. */
export interface PanelProps {
  lab: LabState;
  choices: Lab;
  change: (patch: Patch) => void;
}

const START: Place[] = [[0.25, 0.33], [0.61, 0.68], [0.83, 0.24], [0.2, 0.79]]; // prettier-ignore

/** A layout of one's own, to begin with: the cue ball and three others of this game. */
export function freeLab(choices: Lab, discipline: string): LabState | null {
  const choice = choices.tables.find((one) => one.disciplines.includes(discipline));
  const names = choices.balls[discipline];
  if (!choice || !names) return null;
  const { length, width } = choice.table;
  const balls = START.map(([x, y], n): [string, Place] => [names[n] ?? "", [x * length, y * width]]);
  return {
    table: choice.id, drawn: choice.table, discipline, balls: Object.fromEntries(balls), state: {},
    at: names[1] ?? null, pocket: "foot-left", part: "centre", aim: 0,
    speed: 2, side: 0, height: 0, elevation: 0, hand: "club", physics: {},
  }; // prettier-ignore
}

/** The table as it is asked about. */
export const tableOf = ({ table, discipline, balls, physics }: LabState) => ({
  table,
  discipline,
  balls,
  physics,
});

/** The same, and whose hand plays. */
export const placed = (lab: LabState) => ({ ...tableOf(lab), hand: lab.hand });

const REMEMBERED = "aretane-lab";

/** The table of one's own survives a reload, in this tab. */
export function remember(lab: LabState) {
  try {
    sessionStorage.setItem(REMEMBERED, JSON.stringify(lab));
  } catch {
    // the browser keeps nothing: then it is gone with the page
  }
}

export function remembered(): LabState | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(REMEMBERED) ?? "null") as LabState | null;
    return kept?.balls && kept.drawn ? kept : null;
  } catch {
    return null;
  }
}

/** A logged shot: its layout before, what was meant, and the stroke if one was kept. */
export function labOf(
  game: Game,
  shot: Shot,
  pockets: { ball: string; pocket: Pocket } | null,
): LabState | null {
  const { before, document } = shot;
  if (!before?.balls["cue"]) return null;
  const stroke = document.stroke ?? {};
  const called = document.called?.ball && document.called.pocket ? document.called : null;
  const meant = stroke.at ? { ball: stroke.at, pocket: stroke.pocket ?? null } : (called ?? pockets);
  const free = stroke.aim != null;
  return {
    table: game.header.table ?? "pool-9ft",
    drawn: game.table,
    discipline: game.header.discipline,
    balls: before.balls,
    state: { ball_in_hand: before.ball_in_hand ?? false },
    at: free ? null : (meant?.ball ?? null),
    pocket: free ? null : (meant?.pocket ?? null),
    part: stroke.part ?? "centre",
    aim: stroke.aim ?? 0,
    speed: stroke.speed ?? 2,
    side: stroke.side ?? 0,
    height: stroke.height ?? 0,
    elevation: stroke.elevation ?? 0,
    hand: "club",
    physics: {},
  };
}

export function requestOf(lab: LabState, samples: number): SimulateRequest | null {
  if (!lab.balls["cue"]) return null;
  const aimed = lab.at !== null && lab.pocket !== null;
  const { speed, side, height, elevation } = lab;
  return {
    table: lab.table,
    discipline: lab.discipline,
    balls: lab.balls,
    state: lab.state,
    physics: lab.physics,
    stroke: {
      speed, side, height, elevation,
      at: aimed ? lab.at : null, pocket: aimed ? lab.pocket : null, aim: aimed ? null : lab.aim,
      part: aimed ? lab.part : null,
    }, // prettier-ignore
    hand: lab.hand,
    samples,
    seed: 1,
  };
}

/** The same layout, stretched to another table. */
export function onTable(lab: LabState, id: string, table: Table): Patch {
  const [sx, sy] = [table.length / lab.drawn.length, table.width / lab.drawn.width];
  const moved = ([x, y]: Place): Place => [x * sx, y * sy];
  const balls = Object.fromEntries(Object.entries(lab.balls).map(([ball, place]) => [ball, moved(place)]));
  return { table: id, drawn: table, balls, physics: {} };
}
