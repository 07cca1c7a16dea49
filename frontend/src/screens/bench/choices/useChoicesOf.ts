/** The choices at the entry on the bench: what is asked for, the answer so far, and which of them was played. */
import { useMemo } from "react";

import { askAgain, useChoices } from "../../../api/choices";
import type { ChoicesRequest, Game, Option, Place } from "../../../api/types";
import type { Entry } from "../model/entry";
import { useAsked, useAssumed } from "./state";

export interface Played {
  index: number;
  option: Option;
  /** Valued with its own speed and tip; otherwise the most similar of the options found. */
  exact: boolean;
}

export type ChoicesOf = ReturnType<typeof useChoicesOf>;

export function useChoicesOf(game: Game, entry: Entry) {
  const asked = useAsked();
  const assumed = useAssumed();
  const key = entry.shot?.id ?? "next";
  const tried = asked.tried?.entry === key ? asked.tried.balls : null;
  const balls = tried ?? entry.before;
  const state = entry.shot?.state ?? entry.up?.state ?? null;
  const drawn = asked.drawn?.entry === key ? asked.drawn.stroke : null;
  const body: ChoicesRequest | null = useMemo(
    () =>
      Object.keys(balls).some((ball) => ball !== "cue")
        ? {
            kind: "choices",
            shot: entry.shot?.id ?? null,
            seat: entry.document.player ?? null,
            balls,
            tried: tried !== null,
            added: drawn,
            player: assumed.player,
            opponent: assumed.opponent,
            handed: assumed.handed || null,
            settle: asked.settle,
          }
        : null,
    [entry.shot?.id, entry.document.player, balls, tried, drawn, assumed, asked.settle],
  );
  const choices = useChoices(game, asked.open && state ? body : null);
  const answer = choices.data?.body;
  const begun = asked.open && state && body && asked.begin.length > 0;
  const ordered = useChoices(
    game,
    begun ? { ...body, kind: "order", begin: asked.begin, settle: false, added: null } : null,
  );
  const list = answer?.options ?? null;
  const told = choices.isPlaceholderData ? null : choices.data?.played;
  const option = told && list?.options[told.index];
  const played: Played | null = told && option ? { ...told, option } : null;
  const map = answer?.maps?.find((one) => one.ball === (asked.ball ?? one.ball)) ?? null;
  const onMap = asked.ball
    ? map
    : (answer?.maps?.find((one) => one.ball === null) ?? // of whatever is on
      answer?.maps?.find((one) => one.ball === lowest(entry)) ??
      answer?.maps?.at(-1) ??
      null);
  return {
    game,
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
    again: async () => {
      if (body) await askAgain(game, body).finally(() => void choices.refetch());
    },
    list,
    played,
    map: onMap,
    /** The best order, or the one that begins as the coach wants. */
    plan: (begun ? ordered.data?.body.plan : answer?.plan) ?? null,
    planning: begun ? ordered.isFetching || ordered.data?.state === "running" : false,
    planError: begun ? ordered.error : null,
    option: asked.option === null ? null : (list?.options[asked.option] ?? null),
    other: asked.other === null || asked.other === asked.option ? null : (list?.options[asked.other] ?? null),
  };
}

const lowest = (entry: Entry): string | null => entry.legal[0] ?? null;

/** The cue's direction from a cue ball to a point. */
export const aimAt = (cue: Place, point: Place) => Math.atan2(point[1] - cue[1], point[0] - cue[0]);

/** What an option is worth to its player: the chance to win, in straight pool balls ahead. */
export const worthOf = (option: Option) => option.win ?? option.ahead ?? null;
