import "@fontsource-variable/inter";
import "@fontsource-variable/source-serif-4";
import "./styles.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode, Suspense, lazy } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";

import { gamesQuery } from "./api/queries";
import { Frame } from "./parts/Frame";
import { soughtIn } from "./screens/matches/Filters";
import { Matches } from "./screens/matches/Matches";
import { NotHere } from "./screens/NotHere";

// The first page opens at once; what lies behind it comes when it is gone to.
const Bench = lazy(async () => ({ default: (await import("./screens/bench/Bench")).Bench }));
const PlanWindow = lazy(async () => ({ default: (await import("./screens/bench/PlanWindow")).PlanWindow }));
const Verdict = lazy(async () => ({ default: (await import("./screens/verdict/Verdict")).Verdict }));
const LabPage = lazy(async () => ({ default: (await import("./screens/lab/LabPage")).LabPage }));
const Figures = lazy(async () => ({ default: (await import("./screens/figures/Figures")).Figures }));
const Practice = lazy(async () => ({ default: (await import("./screens/practice/Practice")).Practice }));
const NewExercise = lazy(async () => ({
  default: (await import("./screens/practice/NewExercise")).NewExercise,
}));
const ExercisePage = lazy(async () => ({
  default: (await import("./screens/practice/ExercisePage")).ExercisePage,
}));
const RiddlePage = lazy(async () => ({
  default: (await import("./screens/practice/RiddlePage")).RiddlePage,
}));
const PlanPage = lazy(async () => ({ default: (await import("./screens/practice/PlanPage")).PlanPage }));
const FirstHour = lazy(async () => ({ default: (await import("./screens/guide/FirstHour")).FirstHour }));

const queries = new QueryClient({
  defaultOptions: {
    queries: { networkMode: "always", retry: 1, staleTime: 5_000 },
    mutations: { networkMode: "always" },
  },
});

if (location.pathname === "/")
  void queries.prefetchInfiniteQuery(gamesQuery(soughtIn(new URLSearchParams(location.search))));

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Suspense fallback={<p className="p-6">Opening …</p>}>
            <Routes>
              <Route path="match/:id/plan" element={<PlanWindow />} />
              <Route element={<Frame />}>
                <Route index element={<Matches />} />
                <Route path="match/:id" element={<Bench />} />
                <Route path="match/:id/verdict" element={<Verdict />} />
                <Route path="lab" element={<LabPage />} />
                <Route path="first-hour" element={<FirstHour />} />
                <Route path="practice" element={<Practice />} />
                <Route path="practice/new" element={<NewExercise />} />
                <Route path="question/:id" element={<RiddlePage />} />
                <Route path="practice/plan" element={<PlanPage />} />
                <Route path="practice/:id" element={<ExercisePage />} />
                <Route path="figures" element={<Figures />} />
                <Route path="figures/survey" element={<Figures survey />} />
                <Route path="*" element={<NotHere />} />
              </Route>
            </Routes>
          </Suspense>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
