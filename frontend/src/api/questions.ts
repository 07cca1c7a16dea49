/** Questions to figures: asked by the address, answered by the server, kept by name. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, answered } from "./client";
import { useShotPages } from "./queries";
import type { KeptQuestions, QuestionAnswer, ShotList } from "./types";

/** What is asked, by the names of the address: `measure`, `by`, `player` and so on; what is not there is free. */
export type Question = Record<string, string>;

export function useAnswer(question: Question) {
  return useQuery({
    queryKey: ["question", question],
    queryFn: () =>
      answered<QuestionAnswer>(api.GET("/api/question", { params: { query: question as never } })),
    placeholderData: (before) => before,
  });
}

export function useShotsOf(question: Question, key: string) {
  return useShotPages(["question", "shots", question, key], (begin) =>
    answered<ShotList>(
      api.GET("/api/question/shots", { params: { query: { ...question, key, begin } as never } }),
    ),
  );
}

export function useKeptQuestions() {
  return useQuery({
    queryKey: ["questions"],
    queryFn: () => answered<KeptQuestions>(api.GET("/api/questions")),
  });
}

/** Keep a question by its name, or give it up (`asked` null). */
export function useKeepQuestion() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ name, asked }: { name: string; asked: string | null }) =>
      answered<KeptQuestions>(
        asked === null
          ? api.DELETE("/api/questions", { params: { query: { name } } })
          : api.PUT("/api/questions", { body: { name, asked } }),
      ),
    onSuccess: (kept) => {
      client.setQueryData(["questions"], kept);
    },
  });
}
