/** What the screens know of the server, kept by the query library. */
import {
  infiniteQueryOptions,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect } from "react";

import { answered, api, raw } from "./client";
import { client, openOutbox, post, useOutbox, written } from "./outbox";
import { withChanges } from "./optimistic";
import type { Drawing } from "../table/ink";
import type {
  DisciplineList,
  Camera,
  Change,
  Figures,
  Game,
  GameList,
  Lab,
  Marks,
  MeasuredDrawing,
  Moment,
  Places,
  PlayerList,
  Pocket,
  Reading,
  Recording,
  ReversedGame,
  RecordingList,
  Session,
  Simulated,
  ShotList,
  SimulateRequest,
  Sought,
  Unfinished,
} from "./types";

const AT_ONCE = 50; // matches of which one asks what is left
const SHORTEST = 3; // letters that notes are searched for

/** Asked for as soon as the first page is opened, before it is drawn. */
export const gamesQuery = (sought: Sought) =>
  infiniteQueryOptions({
    queryKey: ["games", sought],
    queryFn: ({ pageParam: begin }) =>
      answered<GameList>(api.GET("/api/games", { params: { query: { begin, ...sought } } })),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => next(last.n, pages.flatMap((page) => page.games).length),
  });

/** Matches that are sought, those worked on last first, a page after the other. */
export function useGames(sought: Sought) {
  const query = useInfiniteQuery({ ...gamesQuery(sought), placeholderData: (before) => before });
  const pages = query.data?.pages;
  return {
    error: query.error,
    games: pages?.flatMap((page) => page.games),
    n: pages?.at(-1)?.n ?? 0,
    deleted: pages?.[0]?.deleted ?? [],
    more: query.hasNextPage ? () => void query.fetchNextPage() : null,
  };
}

/** What waits for somebody in these matches. */
export function useUnfinished(ids: string[]): Record<string, Unfinished> {
  const games = ids.slice(0, AT_ONCE).join(",");
  const query = useQuery({
    queryKey: ["games", "unfinished", games],
    queryFn: () =>
      answered<{ games: Record<string, Unfinished> }>(
        api.GET("/api/games/unfinished", { params: { query: { games } } }),
      ),
    enabled: games !== "",
    placeholderData: (before) => before,
  });
  return query.data?.games ?? {};
}

/** Shots whose notes hold these words. */
export function useMoments(search: string): Moment[] {
  const query = useQuery({
    queryKey: ["games", "moments", search],
    queryFn: () =>
      answered<{ moments: Moment[] }>(api.GET("/api/games/moments", { params: { query: { search } } })),
    enabled: search.length >= SHORTEST,
  });
  return search.length >= SHORTEST ? (query.data?.moments ?? []) : [];
}

/** Where the next page of a list of `n` begins, when so many are there. */
export const next = (n: number, there: number) => (there < n ? there : undefined);

export function useDisciplines() {
  return useQuery({
    queryKey: ["disciplines"],
    queryFn: () => answered<DisciplineList>(api.GET("/api/disciplines")),
    staleTime: Infinity,
  });
}

export function useSession() {
  return useQuery({
    queryKey: ["session"],
    queryFn: () => answered<Session>(api.GET("/api/session")),
    staleTime: Infinity,
  });
}

/** A match with the changes that are still on their way already in it. */
export function useGame(id: string) {
  const queries = useQueryClient();
  const waiting = useOutbox((state) => state.waiting);
  const query = useQuery({
    queryKey: ["game", id],
    queryFn: () => answered<Game>(api.GET("/api/games/{game_id}", { params: { path: { game_id: id } } })),
    refetchOnWindowFocus: true,
    refetchInterval: 15_000,
  });
  useEffect(() => {
    void openOutbox((game) => {
      queries.setQueryData(["game", game.id], game);
      void queries.invalidateQueries({ queryKey: ["recording-reading", game.id] });
      void queries.invalidateQueries({ queryKey: ["figures"] });
      void queries.invalidateQueries({ queryKey: ["games"] });
    });
  }, [queries]);
  const mine = waiting.filter((one) => one.game === id);
  const game =
    query.data && mine.length
      ? mine.reduce((g, w) => withChanges(g, w.operation.changes), query.data)
      : query.data;
  return { ...query, data: game };
}

/** Write a change of a match: shown at once, sent when it can be. */
export function useChange(game: Game | undefined) {
  const seen = game?.last_change ?? 0;
  const id = game?.id ?? "";
  return (label: string, changes: Change[]) => {
    post(id, seen, label, changes);
  };
}

/** One's newest change of a match taken back (its deletion too), or done again. */
export const reversed = (id: string, direction: "undo" | "redo", seen: number) =>
  answered<ReversedGame>(
    api.POST("/api/games/{game_id}/{direction}", {
      params: { path: { game_id: id, direction } },
      body: { id: crypto.randomUUID(), client, seen },
    }),
  );

export function useReverse(id: string, seen: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (direction: "undo" | "redo") => {
      await written(id); // what is still on its way is taken back after it has arrived
      return reversed(id, direction, seen);
    },
    onSuccess: (game) => {
      queries.setQueryData(["game", id], game);
      void queries.invalidateQueries({ queryKey: ["recording-reading", id] });
      void queries.invalidateQueries({ queryKey: ["figures"] });
    },
  });
}

export function useReading(
  table: unknown,
  discipline: string,
  balls: Places,
  focus: { ball?: string; pocket?: Pocket | null },
  sigma: Record<string, number>,
  state: { group: string | null } = { group: null },
) {
  const known = Object.keys(balls).some((ball) => ball !== "cue");
  const body = {
    table,
    discipline,
    balls,
    sigma,
    state,
    ball: focus.ball ?? null,
    pocket: focus.pocket ?? null,
  };
  return useQuery({
    queryKey: ["reading", body],
    queryFn: () => answered<Reading>(api.POST("/api/read", { body })),
    enabled: known,
    placeholderData: (before) => (known ? before : undefined),
    staleTime: Infinity,
  });
}

/** What was drawn by hand on a table, measured. */
export function useMeasured(game: Game, balls: Places, drawings: Drawing[], sigma: Record<string, number>) {
  const { table, discipline } = game.header;
  const body = {
    table: table ?? "pool-9ft",
    discipline,
    balls,
    sigma,
    drawings: drawings.map(({ kind, points }) => ({ kind, points: points })),
  };
  return useQuery({
    queryKey: ["measured", body],
    queryFn: () => answered<{ drawings: MeasuredDrawing[] }>(api.POST("/api/measure", { body })),
    enabled: drawings.length > 0,
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
}

export function useCamera(
  table: unknown,
  marks: Marks | undefined,
  recording: Recording | undefined,
  picture: unknown,
) {
  const enough = marks !== undefined && Object.keys(marks).length >= 4 && recording !== undefined;
  return useQuery({
    queryKey: ["camera", table, marks, recording?.sha256, picture],
    queryFn: () =>
      answered<Camera>(
        api.POST("/api/camera", {
          body: {
            table,
            marks: marks ?? {},
            width: recording?.probe.width ?? 1,
            height: recording?.probe.height ?? 1,
            pixel_aspect: recording?.probe.pixel_aspect ?? 1,
            picture: (picture as [number, number, number, number] | null | undefined) ?? null,
          },
        }),
      ),
    enabled: enough,
    placeholderData: enough ? (before) => before : undefined,
    staleTime: Infinity,
    retry: false,
  });
}

export function useRecordings() {
  return useQuery({
    queryKey: ["recordings"],
    queryFn: () => answered<RecordingList>(api.GET("/api/recordings")),
    refetchInterval: (query) =>
      query.state.data?.recordings.some((one) => one.converted !== null) ? 1500 : false,
  });
}

/** The time of every frame in seconds, on the browser's own media clock. */
export function useFrameTimes(sha256: string | undefined) {
  return useQuery({
    queryKey: ["frames", sha256],
    queryFn: async () =>
      new Float64Array(await (await raw(`/api/recordings/${sha256}/frames`)).arrayBuffer()),
    enabled: sha256 !== undefined,
    staleTime: Infinity,
  });
}

export interface FigureFilter {
  session: string | null;
  discipline: string | null;
  player: number | null;
  game: string | null;
  target_source: string | null;
}

export function useFigures(filter: FigureFilter) {
  const query = Object.fromEntries(Object.entries(filter).filter(([, value]) => value !== null));
  return useQuery({
    queryKey: ["figures", filter],
    queryFn: () => answered<Figures>(api.GET("/api/figures", { params: { query } })),
    placeholderData: (before) => before,
  });
}

/** Which shots stand behind a figure: what it is told apart by, its name, and the game if it is of one alone. */
export interface Pick {
  title: string;
  by: string;
  name: string;
  discipline?: string | null;
}

export function useShotsBehind(filter: FigureFilter, pick: Pick) {
  const { by, name } = pick;
  const asked = Object.entries({ ...filter, discipline: pick.discipline ?? filter.discipline });
  const query = Object.fromEntries(asked.filter(([, value]) => value !== null));
  return useShotPages(["figures", "shots", filter, pick], (begin) =>
    answered<ShotList>(api.GET("/api/figures/shots", { params: { query: { ...query, by, name, begin } } })),
  );
}

/** A list of shots that comes in pages. */
export function useShotPages(queryKey: unknown[], page: (begin: number) => Promise<ShotList>) {
  const found = useInfiniteQuery({
    queryKey,
    queryFn: ({ pageParam: begin }) => page(begin),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => next(last.n, pages.flatMap((each) => each.shots).length),
  });
  return {
    error: found.error,
    n: found.data?.pages.at(-1)?.n,
    shots: found.data?.pages.flatMap((each) => each.shots) ?? [],
    more: found.hasNextPage ? () => void found.fetchNextPage() : null,
  };
}

export function usePlayers() {
  return useQuery({ queryKey: ["players"], queryFn: () => answered<PlayerList>(api.GET("/api/players")) });
}

/** Tables with their parameters, hands, balls: what the shot lab offers. */
export function useLabChoices() {
  return useQuery({
    queryKey: ["lab"],
    queryFn: () => answered<Lab>(api.GET("/api/lab")),
    staleTime: Infinity,
  });
}

/** A shot played; with samples, repeated. What was drawn before stays until the answer is there. */
export function useSimulation(body: SimulateRequest | null) {
  return useQuery({
    queryKey: ["simulate", body],
    queryFn: ({ signal }) =>
      answered<Simulated>(api.POST("/api/simulate", { body: body as SimulateRequest, signal })),
    enabled: body !== null,
    placeholderData: (before) => before,
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
}
