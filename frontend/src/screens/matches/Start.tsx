/** How far a match already was when its recording begins: score, run, fouls, who is at the table, what is on. */
import { useState } from "react";

import type { Game, Header } from "../../api/types";
import { BALLS, ofSort, sortOf, type Discipline } from "../../games/discipline";
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

interface StatedProps {
  discipline: Discipline;
  game?: Game;
  /** The object balls on the table. */
  standing: string[];
  onStanding: (standing: string[]) => void;
}

/** How the game stands where it was not seen before: score, who plays, what is on the table, run, fouls, points. */
export function Stated({ discipline, game, standing, onStanding }: StatedProps) {
  const { rack, race, groups, returns, goes_on, rotation } = discipline;
  const least = goes_on ? -1000 : 0;
  const people = game?.header.players as Record<string, { name?: string }> | undefined;
  const sides = SEATS.map((seat) => [seat, people?.[seat]?.name ?? `player ${seat}`] as const);
  const name = (seat: "A" | "B") => people?.[seat]?.name ?? seat;
  return (
    <>
      {!goes_on && (
        <>
          <Whole name="score_a" label={`${race} ${name("A")}`} value={game?.score["A"] ?? 0} least={least} />
          <Whole name="score_b" label={`${race} ${name("B")}`} value={game?.score["B"] ?? 0} least={least} />
        </>
      )}
      <Pick name="player" label="At the table" options={sides} />
      <Whole name="run" label="run so far" />
      {returns.length || goes_on ? (
        <>
          <Whole name="points_a" label={`points ${name("A")}`} least={-1000} />
          <Whole name="points_b" label={`points ${name("B")}`} least={-1000} />
        </>
      ) : null}
      {returns.length ? (
        <Pick name="on" label="on" options={ON} />
      ) : (
        <>
          <Whole name="fouls_a" label={`fouls ${name("A")}`} most={2} />
          <Whole name="fouls_b" label={`fouls ${name("B")}`} most={2} />
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
      {game && !goes_on && (
        <Pick name="winner" label={`Winner of the ${rack}`} options={[["", "it goes on"], ...sides]} />
      )}
      <Standing discipline={discipline} standing={standing} onStanding={onStanding} />
    </>
  );
}

/** Which balls are gone: a press takes one off, or has it back. Of like balls they are counted. */
function Standing({ discipline, standing, onStanding }: Omit<StatedProps, "game">) {
  const all = BALLS[discipline.name] ?? [];
  const single = all.filter((ball) => !discipline.sorts.some((sort) => sort === sortOf(ball)));
  return (
    <fieldset className="col-span-full flex flex-wrap items-center gap-1">
      <legend className="caption mb-1">on the table</legend>
      {discipline.sorts.map((sort) => {
        const own = ofSort(all, sort);
        const left = ofSort(standing, sort).length;
        return (
          <label key={sort} className="flex items-center gap-1">
            {sort}
            <input
              type="number"
              min={0}
              max={own.length}
              value={left}
              aria-label={`${sort} balls on the table`}
              className="input input-xs w-16"
              onChange={(event) => {
                const many = Number(event.target.value);
                onStanding([...standing.filter((ball) => sortOf(ball) !== sort), ...own.slice(0, many)]);
              }}
            />
          </label>
        );
      })}
      {single.map((ball) => (
        <button
          key={ball}
          type="button"
          className="chip"
          aria-pressed={standing.includes(ball)}
          aria-label={`${ball} on the table`}
          onClick={() => {
            onStanding(
              standing.includes(ball) ? standing.filter((one) => one !== ball) : [...standing, ball],
            );
          }}
        >
          {ball}
        </button>
      ))}
    </fieldset>
  );
}

export function Start({ discipline }: { discipline: Discipline }) {
  const [standing, setStanding] = useState<string[]>(BALLS[discipline.name] ?? []);
  return (
    <fieldset className="col-span-full grid grid-cols-2 gap-3 border border-base-300 p-3 sm:grid-cols-4">
      <legend className="caption px-1">When the recording begins</legend>
      <Tick name="mid_rack" label={`a ${discipline.rack} is under way`} />
      <Stated discipline={discipline} standing={standing} onStanding={setStanding} />
      <input type="hidden" name="standing" value={standing.join(" ")} />
    </fieldset>
  );
}

type State = NonNullable<NonNullable<NonNullable<Header["start"]>["layout"]>["state"]>;

/** What the fields of `Stated` say. */
export function statedBy(
  discipline: Discipline,
  text: (name: string) => string,
  standing: string[],
): State & { run: number } {
  const number = (name: string) => Number(text(name)) || 0;
  return {
    player: oneOf(SEATS, text("player")),
    ball_in_hand: text("in_hand") ? discipline.hand : false,
    push_out_allowed: Boolean(text("push_out")),
    group: oneOf(discipline.groups, text("group")) ?? null,
    on: text("on") || null,
    fouls: { A: number("fouls_a"), B: number("fouls_b") },
    points: { A: number("points_a"), B: number("points_b") },
    standing,
    run: number("run"),
  };
}

export function startState(
  discipline: Discipline,
  text: (name: string) => string,
): NonNullable<Header["start"]> {
  const number = (name: string) => Number(text(name)) || 0;
  const ahead = discipline.goes_on ? "points" : "score";
  const start: NonNullable<Header["start"]> = {
    score: { A: number(`${ahead}_a`), B: number(`${ahead}_b`) },
    breaker: oneOf(SEATS, text("breaker")),
  };
  if (!text("mid_rack")) return start;
  const { run, player, fouls, ...state } = statedBy(
    discipline,
    text,
    text("standing").split(" ").filter(Boolean),
  );
  return { ...start, player, run, fouls, layout: { state } };
}
