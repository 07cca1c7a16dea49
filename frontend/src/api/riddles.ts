/** Shots asked as questions. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answered, api } from "./client";
import type { Guess, Riddle } from "./types";

export function useAskRiddle() {
  return useMutation({
    mutationFn: (what: { game: string; shot: string }) =>
      answered<Riddle>(api.POST("/api/riddles", { body: { id: crypto.randomUUID(), ...what } })),
  });
}

export function useRiddle(id: string, shown: boolean) {
  return useQuery({
    queryKey: ["riddle", id, shown],
    queryFn: () =>
      answered<Riddle>(
        api.GET("/api/riddles/{riddle}", { params: { path: { riddle: id }, query: { shown } } }),
      ),
    placeholderData: (before) => before,
  });
}

export function useGuess(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Guess) =>
      answered<Riddle>(api.POST("/api/riddles/{riddle}/answers", { params: { path: { riddle: id } }, body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["riddle", id] }),
  });
}
