/** The strip of shots: racks as tabs, shots in order, the one being entered at the end. */
import { useEffect, useRef } from "react";

import type { Game, Shot } from "../../api/types";
import { SIGNS, pocketWords } from "../../words";

interface Props {
  game: Game;
  rack: number;
  shot: string | null;
  onRack: (rack: number) => void;
  onShot: (shot: string | null) => void;
}

export function Strip({ game, rack, shot, onRack, onShot }: Props) {
  const shots = game.racks[rack]?.shots ?? [];
  const last = rack >= game.racks.length - 1;
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    list.current
      ?.querySelector('[aria-current="true"]')
      ?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [shot, rack]);
  return (
    <section aria-label="Shots" className="border-y border-base-300">
      <div role="group" aria-label="Racks" className="flex gap-1 overflow-x-auto px-2 pt-1">
        {game.racks.map((one, index) => (
          <button
            key={one.id}
            aria-pressed={index === rack}
            className="chip"
            onClick={() => {
              onRack(index);
            }}
          >
            rack {index + 1}
            <span className="opacity-75">
              {one.winner ? `${one.winner} ${one.score["A"]}:${one.score["B"]}` : "open"}
            </span>
          </button>
        ))}
        {game.racks.length === 0 && <span className="caption py-1">first rack</span>}
      </div>
      <ol ref={list} className="flex gap-1 overflow-x-auto px-2 py-1">
        {shots.map((one, index) => (
          <li key={one.id}>
            <button
              className="chip h-11 flex-col !items-start !gap-0"
              aria-current={one.id === shot}
              onClick={() => {
                onShot(one.id);
              }}
              title={one.ruling?.why ?? "cannot have happened like this"}
              data-shot={one.id}
            >
              <span className="flex w-full gap-1">
                <b>{index + 1}</b> {one.document.player} {words(one)}
              </span>
              <span className="flex items-center gap-1 text-[11px]">
                <span aria-hidden>{SIGNS[one.result ?? ""] ?? "·"}</span>
                {one.document.declared ?? one.result?.replace("-", " ")}
                {!one.ruling && <span className="text-error">?</span>}
                {one.document.seen === false && <span className="opacity-75">unseen</span>}
              </span>
            </button>
          </li>
        ))}
        {last && !game.winner && (
          <li>
            <button
              className="chip h-11 border-dashed"
              aria-current={shot === null}
              onClick={() => {
                onShot(null);
              }}
            >
              {game.racks[rack]?.winner ? "next rack" : "next shot"}
            </button>
          </li>
        )}
      </ol>
    </section>
  );
}

function words(shot: Shot): string {
  const { called, kind, intent } = shot.document;
  if (called?.ball) return `${called.ball} ${pocketWords(called.pocket)}`;
  return kind === "break" ? "break" : (intent ?? kind ?? "");
}
