import "@fontsource-variable/inter";
import "@fontsource-variable/source-serif-4";
import "./styles.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";

import { Frame } from "./parts/Frame";
import { Bench } from "./screens/bench/Bench";
import { LabPage } from "./screens/lab/LabPage";
import { Figures } from "./screens/figures/Figures";
import { Matches } from "./screens/matches/Matches";
import { NotHere } from "./screens/NotHere";

const queries = new QueryClient({
  defaultOptions: {
    queries: { networkMode: "always", retry: 1, staleTime: 5_000 },
    mutations: { networkMode: "always" },
  },
});

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Routes>
            <Route element={<Frame />}>
              <Route index element={<Matches />} />
              <Route path="match/:id" element={<Bench />} />
              <Route path="lab" element={<LabPage />} />
              <Route path="figures" element={<Figures />} />
              <Route path="*" element={<NotHere />} />
            </Route>
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
