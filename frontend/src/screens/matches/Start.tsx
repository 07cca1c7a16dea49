/** How far a match already was when its recording begins: score, run, fouls, who is at the table, what is on. */
import type { Header } from "../../api/types";
import type { Discipline } from "../../games/discipline";
import { Pick, SEATS, Tick, Whole, oneOf } from "./Fields";

const ON = [
  ["", "a red, or the lowest colour"],
  ["colour", "a colour"],
  ["yellow", "yellow"],
  ["green", "green"],
  ["brown", "brown"],
  ["blue", "blue"],
  ["pink", "pink"],
  ["black", "black"],
] as const;

export function Start({ discipline }: { discipline: Discipline }) {
  const { rack, race, groups, returns, goes_on, rotation } = discipline;
  const least = goes_on ? -1000 : 0;
  return (
    <fieldset className="col-span-full grid grid-cols-2 gap-3 border border-base-300 p-3 sm:grid-cols-4">
      <legend className="caption px-1">When the recording begins</legend>
      <Whole name="score_a" label={`${race} A`} least={least} />
      <Whole name="score_b" label={`${race} B`} least={least} />
      <Tick name="mid_rack" label={`a ${rack} is under way`} />
      <Pick
        name="player"
        label="At the table"
        options={[
          ["A", "player A"],
          ["B", "player B"],
        ]}
      />
      {/* prettier-ignore */}
      <Whole name="run" label="run so far" />
      {returns.length ? (
        <>
          <Whole name="points_a" label="points A" />
          <Whole name="points_b" label="points B" />
          <Pick name="on" label="on" options={ON} />
        </>
      ) : (
        <>
          <Whole name="fouls_a" label="fouls A" most={2} />
          <Whole name="fouls_b" label="fouls B" most={2} />
        </>
      )}
      {groups.length > 0 && (
        <Pick
          name="group"
          label="group of the player"
          options={[["", "open table"], ...groups.map((one): [string, string] => [one, one])]}
        />
      )}
      <Tick name="in_hand" label="ball in hand" />
      {rotation && <Tick name="push_out" label="push-out allowed" />}
    </fieldset>
  );
}

export function startState(
  discipline: Discipline,
  text: (name: string) => string,
): NonNullable<Header["start"]> {
  const number = (name: string) => Number(text(name)) || 0;
  const start: NonNullable<Header["start"]> = {
    score: { A: number("score_a"), B: number("score_b") },
    breaker: oneOf(SEATS, text("breaker")),
  };
  if (!text("mid_rack")) return start;
  const where = discipline.hand;
  return {
    ...start,
    player: oneOf(SEATS, text("player")),
    run: number("run"),
    fouls: { A: number("fouls_a"), B: number("fouls_b") },
    layout: {
      state: {
        ball_in_hand: text("in_hand") ? where : false,
        push_out_allowed: Boolean(text("push_out")),
        group: oneOf(discipline.groups, text("group")) ?? null,
        on: text("on") || null,
        points: { A: number("points_a"), B: number("points_b") },
      },
    },
  };
}
