/** What should have been played: asked again and again while it is being worked out. */
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { Refusal, answered, api } from "./client";
import { next } from "./queries";
import type { Choices, ChoicesRequest, FeltShots, Game, Hand } from "./types";

const WHILE_RUNNING = 350; // ms between two looks
const WHILE_WAITING = 2000; // for its turn, or for a place in the queue
const page = crypto.randomUUID();

/** The answer to `body` about a match as far as it is known. Work that nobody looks at any more is stopped. */
export function useChoices(game: Pick<Game, "id" | "last_change">, body: ChoicesRequest | null) {
  const query = useQuery({
    queryKey: ["choices", game.id, game.last_change, body] as const,
    queryFn: () =>
      answered<Choices>(
        api.POST("/api/games/{game_id}/choices", {
          params: { path: { game_id: game.id } },
          body: { ...(body as ChoicesRequest), page }, // asked only with one: `enabled`
        }),
      ),
    enabled: body !== null,
    refetchInterval: ({ state }) => {
      if (state.error instanceof Refusal && !state.error.final) return WHILE_WAITING;
      if (state.data?.state !== "running") return false;
      return state.data.place ? WHILE_WAITING : WHILE_RUNNING;
    },
    staleTime: Infinity,
    retry: false,
    // The maps hold wherever the cue ball is put: they stay until the new ones are there.
    placeholderData: (before, query) => (sameTable(query?.queryKey[3], body) ? before : undefined),
  });
  const { data } = query;
  const running = data?.state === "running" && !query.isPlaceholderData ? data.hash : null;
  useEffect(
    () => () => {
      if (running) void stopChoices(running);
    },
    [running],
  );
  return query;
}

function sameTable(before: ChoicesRequest | null | undefined, other: ChoicesRequest | null): boolean {
  if (before?.kind !== "choices" || other?.kind !== "choices") return false;
  return fixed(before) === fixed(other);
}

/** What the maps depend on: everything but the cue ball's place. */
function fixed(body: ChoicesRequest): string {
  const objects = Object.entries(body.balls).filter(([ball]) => ball !== "cue");
  return JSON.stringify([body.shot, body.seat, objects, body.player, body.opponent]);
}

/** What failed is tried again. */
export async function askAgain(game: Pick<Game, "id">, body: ChoicesRequest): Promise<void> {
  const path = { params: { path: { game_id: game.id } }, body: { ...body, page, again: true } };
  await answered<Choices>(api.POST("/api/games/{game_id}/choices", path));
}

export const stopChoices = (hash: string) =>
  api.DELETE("/api/choices/{hash}", { params: { path: { hash } } });

export function useHand(player: number | null, session: string | null, discipline: string | null) {
  return useQuery({
    queryKey: ["hand", player, session, discipline],
    queryFn: () =>
      answered<Hand>(
        api.GET("/api/hand", {
          params: { query: { player: player ?? 0, session, discipline, prior: "club" } },
        }),
      ),
    enabled: player !== null,
  });
}

export function useFelt() {
  const query = useInfiniteQuery({
    queryKey: ["felt"],
    queryFn: ({ pageParam: begin }) =>
      answered<FeltShots>(api.GET("/api/felt", { params: { query: { begin } } })),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => next(last.n, pages.flatMap((page) => page.shots).length),
  });
  return {
    n: query.data?.pages.at(-1)?.n ?? 0,
    shots: query.data?.pages.flatMap((page) => page.shots) ?? [],
    more: query.hasNextPage ? () => void query.fetchNextPage() : null,
  };
}
