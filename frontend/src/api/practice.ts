/** Exercises and attempts. Attempts are kept in the browser until the server has them: a tap is never lost. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { get, update } from "idb-keyval";
import { useCallback, useEffect, useState } from "react";

import { answered, api } from "./client";
import type { Exercise, ExerciseList, LevelList, PlanList, Planned, ToPractise } from "./types";

export const RESULTS = ["made", "thick", "thin", "missed"] as const;
export interface Attempt {
  id: string;
  player: string;
  result: (typeof RESULTS)[number];
  zone: boolean | null;
  at: string;
  /** Of a run: the balls that were made, and why it ended. */
  balls?: number;
  why?: Why | null;
}

export const WHY = ["missed", "no position", "cue ball lost", "wrong choice", "safety"] as const;
export type Why = (typeof WHY)[number];

const RETRY = 5000; // ms between two tries to send what waits

export const useExercises = () =>
  useQuery({
    queryKey: ["exercises"],
    queryFn: () => answered<ExerciseList>(api.GET("/api/exercises")),
  });

export const useExercise = (id: string) =>
  useQuery({
    queryKey: ["exercises", id],
    queryFn: () =>
      answered<Exercise>(api.GET("/api/exercises/{exercise}", { params: { path: { exercise: id } } })),
  });

export function useLevels(game: string, shot: string, hand: string) {
  return useQuery({
    queryKey: ["levels", game, shot, hand],
    queryFn: () =>
      answered<LevelList>(
        api.GET("/api/games/{game_id}/shots/{shot_id}/levels", {
          params: { path: { game_id: game, shot_id: shot }, query: { hand: hand as "club" } },
        }),
      ),
    retry: false,
  });
}

export function useMakeExercise() {
  return useMutation({
    mutationFn: (body: { game: string; shot: string; hand: string; level: string }) =>
      answered<Exercise>(api.POST("/api/exercises", { body: { id: crypto.randomUUID(), ...body } as never })),
  });
}

/** The whole table before a shot, or (a title alone) a log of open runs. */
export function useMakeRuns() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (what: { game: string; shot: string } | { title: string }) => {
      const id = crypto.randomUUID();
      return answered<Exercise>(
        "title" in what
          ? api.POST("/api/exercises/runs", { body: { id, ...what } })
          : api.POST("/api/exercises/layouts", { body: { id, ...what } }),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: ["exercises"], exact: true }),
  });
}

/** What would bring a player most. */
export function useToPractise(player: number | null) {
  return useQuery({
    queryKey: ["to-practise", player],
    enabled: player !== null,
    queryFn: () =>
      answered<ToPractise>(api.GET("/api/to-practise", { params: { query: { player: player ?? 0 } } })),
  });
}

const PLAN = ["plan"];

export const usePlan = () =>
  useQuery({ queryKey: PLAN, queryFn: () => answered<PlanList>(api.GET("/api/plan")) });

/** Plan a session, or (its id alone) take one out. */
export function usePlanned() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (what: Omit<Planned, "week"> | string) =>
      answered<PlanList>(
        typeof what === "string"
          ? api.DELETE("/api/plan/{planned}", { params: { path: { planned: what } } })
          : api.PUT("/api/plan", { body: what }),
      ),
    onSuccess: (told) => {
      client.setQueryData(PLAN, told);
    },
  });
}

export function useDropExercise() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) =>
      answered(api.DELETE("/api/exercises/{exercise}", { params: { path: { exercise: id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ["exercises"], exact: true }),
  });
}

/** Attempts of an exercise on their way: tapped, kept, sent as soon as the line holds. */
export function useAttempts(id: string) {
  const client = useQueryClient();
  const key = `aretane-attempts:${id}`;
  const [waiting, setWaiting] = useState<Attempt[]>([]);
  const [away, setAway] = useState(false);

  const send = useCallback(async () => {
    const there = (await get<Attempt[]>(key)) ?? [];
    setWaiting(there);
    if (there.length === 0) return;
    try {
      const told = await answered<Exercise>(
        api.POST("/api/exercises/{exercise}/attempts", {
          params: { path: { exercise: id } },
          body: { attempts: there.slice(0, 500) },
        }),
      );
      const sent = new Set(there.slice(0, 500).map((one) => one.id));
      await update<Attempt[]>(key, (kept = []) => kept.filter((one) => !sent.has(one.id)));
      setWaiting((await get<Attempt[]>(key)) ?? []);
      client.setQueryData(["exercises", id], told);
      setAway(false);
    } catch {
      setAway(true);
    }
  }, [client, id, key]);

  useEffect(() => {
    const begin = setTimeout(() => void send(), 0);
    const again = setInterval(() => void send(), RETRY);
    return () => {
      clearTimeout(begin);
      clearInterval(again);
    };
  }, [send]);

  const log = async (attempt: Attempt) => {
    await update<Attempt[]>(key, (kept = []) => [...kept, attempt]);
    await send();
  };
  const takeBack = async (attempt: string) => {
    await update<Attempt[]>(key, (kept = []) => kept.filter((one) => one.id !== attempt));
    try {
      const told = await answered<Exercise>(
        api.DELETE("/api/exercises/{exercise}/attempts/{attempt}", {
          params: { path: { exercise: id, attempt } },
        }),
      );
      client.setQueryData(["exercises", id], told);
    } catch {
      setAway(true);
    }
    setWaiting((await get<Attempt[]>(key)) ?? []);
  };
  return { waiting, away, log, takeBack };
}
