/** Films of moments and voices over them. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answered, api, raw } from "./client";
import type { ClipAnswer, VoiceList } from "./types";

const WHILE_RUNNING = 800; // ms between two looks

/** Have a film made. */
export function useMakeFilm(game: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { shots: string[]; sound: boolean }) =>
      answered<ClipAnswer>(
        api.POST("/api/games/{game_id}/clips", { params: { path: { game_id: game } }, body }),
      ),
    onSuccess: (made) => {
      queries.setQueryData(["clip", made.clip], made);
    },
  });
}

/** How far it is. */
export function useFilm(clip: string | undefined) {
  return useQuery({
    queryKey: ["clip", clip],
    enabled: clip !== undefined,
    queryFn: () =>
      answered<ClipAnswer>(api.GET("/api/clips/{clip}", { params: { path: { clip: clip ?? "" } } })),
    refetchInterval: ({ state }) => (state.data?.state === "running" ? WHILE_RUNNING : false),
  });
}

export function useGiveUpFilm() {
  return useMutation({
    mutationFn: (clip: string) => answered(api.DELETE("/api/clips/{clip}", { params: { path: { clip } } })),
  });
}

const voicesOf = (game: string) => ["voices", game];
const pathOf = (game: string, shot: string) => `/api/games/${game}/shots/${shot}/voice`;

/** By shot how many seconds somebody speaks over it. */
export function useVoices(game: string) {
  return useQuery({
    queryKey: voicesOf(game),
    queryFn: () =>
      answered<VoiceList>(api.GET("/api/games/{game_id}/voices", { params: { path: { game_id: game } } })),
  });
}

/** Keep what was said over a shot, or (null) drop it. */
export function useVoice(game: string, shot: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (sound: Blob | null) => {
      const sent = sound
        ? { method: "PUT", body: sound, headers: { "Content-Type": sound.type } }
        : { method: "DELETE" };
      return (await raw(pathOf(game, shot), sent)).json() as Promise<VoiceList>;
    },
    onSuccess: (voices) => {
      queries.setQueryData(voicesOf(game), voices);
    },
  });
}

/** Where a voice is heard; another one has another address. */
export const heardAt = (game: string, shot: string, seconds: number) =>
  `${pathOf(game, shot)}?${seconds.toFixed(2)}`;
