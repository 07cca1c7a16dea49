/** The choices at the entry on the bench: the question, the answer so far, and which of them was played. */
import { useMemo } from "react";

import { useChoices } from "../../../api/choices";
import type { ChoicesRequest, Game, Option, Place, Places } from "../../../api/types";
import { named } from "../Board";
import type { Entry } from "../entry";
import { useAsked, useAssumed, type HandName } from "./state";

export type ChoicesOf = ReturnType<typeof useChoicesOf>;

interface Stroke {
  aim?: number | null;
  speed?: number | null;
  side?: number;
  height?: number;
}

export function useChoicesOf(game: Game, entry: Entry) {
  const asked = useAsked();
  const assumed = useAssumed();
  const key = entry.shot?.id ?? "next";
  const tried = asked.tried?.entry === key ? asked.tried.balls : null;
  const balls = tried ?? entry.before;
  const state = entry.shot?.state ?? entry.up?.state ?? null;
  const drawn = asked.drawn?.entry === key ? asked.drawn.stroke : null;
  const body = useMemo(
    () => question(game, entry, balls, assumed, asked.settle, tried !== null, drawn),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what the question is made of
    [game.id, game.last_change, key, balls, assumed, asked.settle, tried, drawn],
  );
  const choices = useChoices(asked.open && state ? body : null);
  const answer = choices.data?.body;
  const list = answer?.options ?? null;
  const played =
    choices.isPlaceholderData || tried || !entry.shot || !list ? null : playedOf(entry, list.options);
  const map = answer?.maps?.find((one) => one.ball === (asked.ball ?? one.ball)) ?? null;
  const onMap = asked.ball
    ? map
    : (answer?.maps?.find((one) => one.ball === (state ? lowest(entry) : null)) ??
      answer?.maps?.at(-1) ??
      null);
  return {
    key,
    state,
    body,
    balls,
    tried: tried !== null,
    running: choices.isFetching || choices.data?.state === "running",
    /** The list is of the place before; the maps hold here too. */
    old: choices.isPlaceholderData,
    answer: choices.data,
    error: choices.error,
    list,
    played,
    map: onMap,
    option: asked.option === null ? null : (list?.options[asked.option] ?? null),
  };
}

const lowest = (entry: Entry): string | null => entry.legal[0] ?? null;

function question(
  game: Game,
  entry: Entry,
  balls: Places,
  assumed: { player: HandName; opponent: HandName; handed: "right" | "left" | "both" },
  settle: boolean,
  tried: boolean,
  drawn: Stroke | null,
): ChoicesRequest | null {
  const state = entry.shot?.state ?? entry.up?.state;
  if (!state || !Object.keys(balls).some((ball) => ball !== "cue")) return null;
  const seat = entry.document.player ?? "A";
  const stroke = entry.document.stroke as Stroke | null | undefined;
  const called = entry.document.called;
  const added = drawn ? [{ source: "added", stroke: drawn, ball: null, pocket: null }] : [];
  const logged =
    !tried && entry.shot && stroke?.aim != null && stroke.speed != null
      ? [
          {
            source: "played",
            stroke: {
              aim: stroke.aim,
              speed: stroke.speed,
              side: stroke.side ?? 0,
              height: stroke.height ?? 0,
            },
            ball: isPot(entry) ? (called?.ball ?? null) : null,
            pocket: isPot(entry) ? (called?.pocket ?? null) : null,
          },
        ]
      : [];
  return {
    kind: "choices",
    table: game.header.table ?? "pool-9ft",
    discipline: game.header.discipline,
    balls: within(balls, entry),
    state: { ...state, ball_in_hand: balls["cue"] ? false : state["ball_in_hand"] },
    rules: (game.header.rules ?? {}) as Record<string, unknown>,
    player: handOf(assumed.player, game, seat),
    opponent: handOf(assumed.opponent, game, seat === "A" ? "B" : "A"),
    handed: assumed.handed,
    settle,
    drawn: [...logged, ...added],
    race: raceOf(game, entry, seat),
    answering: state["answering"] === true,
  } as ChoicesRequest;
}

/** Racks that the player and the opponent still needed before this rack; null where none are raced for. */
function raceOf(game: Game, entry: Entry, seat: string): [number, number] | null {
  const target = game.header.race_to;
  const sets = Number(game.rules["sets"] ?? 1);
  if (!target || sets > 1 || game.header.discipline === "straight-pool") return null;
  const index = entry.rack ? game.racks.indexOf(entry.rack) : game.racks.length;
  const score = game.racks[index - 1]?.score ?? {};
  const [mine, theirs] = [target - (score[seat] ?? 0), target - (score[seat === "A" ? "B" : "A"] ?? 0)];
  return mine > 0 && theirs > 0 ? [mine, theirs] : null;
}

const within = (balls: Places, entry: Entry): Places =>
  Object.fromEntries(
    Object.entries(balls).filter(([ball]) => ball === "cue" || entry.standing.includes(ball) || !entry.shot),
  );

const handOf = (name: HandName, game: Game, seat: string) =>
  name === "record" ? { record: named(game, seat) } : name;

const isPot = (entry: Entry) =>
  ["attack", "two-way", null, undefined].includes(entry.document.intent as string | null | undefined) &&
  entry.document.declared !== "safety";

export interface Played {
  index: number;
  option: Option;
  /** Valued with its own speed and tip; otherwise the most similar of the options found. */
  exact: boolean;
}

/** The option that was played: the logged stroke itself, else the nearest to what was logged of it. */
export function playedOf(entry: Pick<Entry, "document">, options: Option[]): Played | null {
  const { called, intent } = entry.document;
  const of = (index: number, exact: boolean): Played | null => {
    const option = options[index];
    return option ? { index, option, exact } : null;
  };
  const exact = options.findIndex((one) => one.also.includes("played"));
  if (exact >= 0) return of(exact, true);
  if (called?.ball && called.pocket)
    return of(
      options.findIndex((one) => one.ball === called.ball && one.pocket === called.pocket),
      false,
    );
  if (intent && intent !== "attack")
    return of(
      options.findIndex((one) => one.ball === null),
      false,
    );
  return null;
}

/** The cue's direction from a cue ball to a point. */
export const aimAt = (cue: Place, point: Place) => Math.atan2(point[1] - cue[1], point[0] - cue[0]);

/** What an option is worth to its player: the chance to win, in straight pool balls ahead. */
export const worthOf = (option: Option) => option.win ?? option.ahead ?? null;
