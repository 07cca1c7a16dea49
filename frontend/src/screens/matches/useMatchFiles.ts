/** Matches from files: brought in one after the other, asked about where one is known already or cannot have happened. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { Refusal, raw, type PlaceOfTrouble } from "../../api/client";
import type { Game } from "../../api/types";
import type { Same } from "./KnownMatch";

export function useMatchFiles() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<unknown>(null);
  const [coming, setComing] = useState<{ name: string; number: number; of: number } | null>(null);
  const [strange, setStrange] = useState<{ file: File; places: PlaceOfTrouble[] } | null>(null);
  const [known, setKnown] = useState<{ file: File; keep: boolean; message: string } | null>(null);

  const forget = () => {
    setStrange(null);
    setKnown(null);
  };
  const bringIn = async (files: File[], keep = false, same: Same = "ask") => {
    setProblem(null);
    forget();
    let game: Game | null = null;
    for (const [number, file] of files.entries()) {
      setComing({ name: file.name, number, of: files.length });
      try {
        const headers = { "Content-Type": "application/json" };
        const answer = await raw(`/api/games/import?keep=${String(keep)}&same=${same}`, {
          method: "POST",
          body: file,
          headers,
        });
        game = (await answer.json()) as Game;
      } catch (failure) {
        if (failure instanceof Refusal && failure.places.length) setStrange({ file, places: failure.places });
        else if (failure instanceof Refusal && failure.status === 409)
          setKnown({ file, keep, message: failure.message.replace(/^id: /, "") });
        else setProblem(new Error(`${file.name}: ${failure instanceof Error ? failure.message : "refused"}`));
        game = null;
        break; // those before it are in, those after it are not
      }
    }
    setComing(null);
    await Promise.all([
      queries.invalidateQueries({ queryKey: ["games"] }),
      queries.invalidateQueries({ queryKey: ["figures"] }),
    ]);
    if (game && files.length === 1) await navigate(`/match/${game.id}`);
  };
  return { problem, coming, strange, known, forget, bringIn };
}
