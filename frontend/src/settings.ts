/** What belongs to this browser: the unit of lengths and the light. */
import { useEffect } from "react";
import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { Table } from "./api/types";

export const UNITS = ["cm", "in", "balls", "diamonds"] as const;
export type Unit = (typeof UNITS)[number];

export const VIEWS = ["both", "picture", "plan"] as const;
export type View = (typeof VIEWS)[number];

interface Settings {
  unit: Unit;
  theme: "plan" | "plan-night";
  /** Whether the coach's own estimate is asked before the numbers are shown. */
  feltFirst: boolean;
  /** On the bench: what is seen of picture and plan, and the picture's share of their room. */
  view: View;
  share: number;
}

export const useSettings = create<Settings>()(
  persist(
    (): Settings => ({
      unit: "cm",
      feltFirst: false,
      view: "both",
      share: 0.5,
      theme: window.matchMedia?.("(prefers-color-scheme: dark)").matches ? "plan-night" : "plan",
    }),
    { name: "aretane-settings" },
  ),
);

/** The page in the light that was chosen. */
export function useTheme(): void {
  const theme = useSettings((state) => state.theme);
  useEffect(() => {
    document.documentElement.dataset["theme"] = theme;
  }, [theme]);
}

/** A length in metres in the chosen unit. Diamonds are counted along the table. */
export function lengthIn(metres: number, unit: Unit, table: Pick<Table, "radius" | "length">): string {
  switch (unit) {
    case "cm":
      return `${(metres * 100).toFixed(1)} cm`;
    case "in":
      return `${(metres / 0.0254).toFixed(1)} in`;
    case "balls":
      return `${(metres / (2 * table.radius)).toFixed(1)} balls`;
    case "diamonds":
      return `${((metres * 8) / table.length).toFixed(2)} dia.`;
  }
}
