/** What Aretane reads from recordings: the table's outline, the balls of a picture, the shots of a recording. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answered, api } from "./client";
import type { Correction, Marks, RecordingReading, Still, TableTold } from "./types";

const WHILE_RUNNING = 1000; // ms between two looks at a reading that is under way

export interface Span {
  recording: number;
  begin: number;
  marked_at: number;
}

export function useRecordingReading(game: string) {
  return useQuery({
    queryKey: ["recording-reading", game],
    queryFn: () =>
      answered<RecordingReading>(
        api.GET("/api/games/{game_id}/reading", { params: { path: { game_id: game } } }),
      ),
    refetchInterval: (query) => (query.state.data?.state === "running" ? WHILE_RUNNING : false),
  });
}

/** Begin, stop, correct: each answers with the reading as it is then. */
export function useReadingWork(game: string) {
  const queries = useQueryClient();
  const params = { path: { game_id: game } };
  const onSuccess = (reading: RecordingReading) => {
    queries.setQueryData(["recording-reading", game], reading);
    void queries.invalidateQueries({ queryKey: ["game", game] }); // what nobody confirmed follows
  };
  const begin = useMutation({
    mutationFn: (span: Span) =>
      answered<RecordingReading>(
        api.POST("/api/games/{game_id}/reading", {
          params,
          body: { id: crypto.randomUUID(), end: null, ...span },
        }),
      ),
    onSuccess,
  });
  const stop = useMutation({
    mutationFn: () => answered<RecordingReading>(api.POST("/api/games/{game_id}/reading/stop", { params })),
    onSuccess,
  });
  const correct = useMutation({
    mutationFn: (correction: Partial<Correction> & Pick<Correction, "do">) =>
      answered<RecordingReading>(
        api.POST("/api/games/{game_id}/reading/corrections", {
          params,
          body: { following: false, ...correction },
        }),
      ),
    onSuccess,
  });
  const takeBack = useMutation({
    mutationFn: () =>
      answered<RecordingReading>(api.DELETE("/api/games/{game_id}/reading/corrections", { params })),
    onSuccess,
  });
  return { begin, stop, correct, takeBack };
}

/** What the ways of the balls tell of the table's cloth and rails. */
export function useTableTold(game: string) {
  return useMutation({
    mutationFn: () =>
      answered<TableTold>(
        api.GET("/api/games/{game_id}/reading/table", { params: { path: { game_id: game } } }),
      ),
  });
}

/** The balls of one picture of a match's recording. */
export function useStill(game: string) {
  return useMutation({
    mutationFn: (query: { recording: number; at: number }) =>
      answered<Still>(api.GET("/api/games/{game_id}/still", { params: { path: { game_id: game }, query } })),
  });
}

/** The table's marks as the picture suggests them; with `marks` those moved onto edges. */
export function useOutline() {
  return useMutation({
    mutationFn: (ask: { sha256: string; table: unknown; at: number; marks: Marks | null }) =>
      answered<{ marks: Marks }>(
        api.POST("/api/recordings/{sha256}/outline", {
          params: { path: { sha256: ask.sha256 } },
          body: { table: ask.table as string, at: ask.at, marks: ask.marks },
        }),
      ),
  });
}
