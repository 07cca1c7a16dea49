/** The verdict on a match: looked at, or asked for. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answered, api } from "./client";
import type { Game, LedgerAnswer } from "./types";

export type Care = "coarse" | "settled";
type Match = Pick<Game, "id" | "last_change">;

const WHILE_RUNNING = 1500; // ms between two looks

const keyOf = (game: Match, care: Care) => ["ledger", game.id, care, game.last_change] as const;

/** What is known of a match's verdict; with `begin` what is missing is worked out from now on. */
export function useLedger(game: Match, care: Care, begin: boolean) {
  return useQuery({
    queryKey: [...keyOf(game, care), begin],
    queryFn: () => (begin ? ask(game, care, false) : look(game, care)),
    refetchInterval: ({ state }) => (state.data?.state === "running" ? WHILE_RUNNING : false),
    placeholderData: (before) => before,
  });
}

/** Judged anew, with the hands as both players' records tell them today. */
export function useJudgeAnew(game: Match, care: Care) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => ask(game, care, true),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["ledger", game.id] }),
  });
}

const look = (game: Match, care: Care) =>
  answered<LedgerAnswer>(
    api.GET("/api/games/{game_id}/ledger", {
      params: { path: { game_id: game.id }, query: { care } },
    }),
  );

const ask = (game: Match, care: Care, again: boolean) =>
  answered<LedgerAnswer>(
    api.POST("/api/games/{game_id}/ledger", {
      params: { path: { game_id: game.id } },
      body: { care, again },
    }),
  );
