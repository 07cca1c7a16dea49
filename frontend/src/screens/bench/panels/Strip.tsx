/** The strip of shots: racks as tabs, shots in order, the one being entered at the end. */
import { memo, useEffect, useRef } from "react";

import type { Game, Ledger, Shot } from "../../../api/types";
import { disciplineOf, sortOf } from "../../../games/discipline";
import { SIGNS, pocketWords } from "../../../words";
import { bringIn } from "../../../parts/strip";
import { RackLine } from "../../verdict/RackLine";
import { short } from "../../verdict/model";
import type { Actions } from "../actions";

interface Props {
  game: Game;
  rack: number;
  shot: string | null;
  /** Before this one a forgotten shot is being put. */
  inserting: string | null;
  goTo: Actions["goTo"];
  /** What every shot changed, as far as it was judged. */
  ledger: Ledger | undefined;
}

export const Strip = memo(function Strip({ game, rack, shot, inserting, goTo, ledger }: Props) {
  const shots = game.racks[rack]?.shots ?? [];
  const { rack: rackWord, scratch } = disciplineOf(game.header.discipline);
  const last = rack >= game.racks.length - 1;
  const judged = ledger?.racks?.[rack];
  const costs = new Map(judged?.shots.map((one) => [one.id, one.after - one.before]));
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    bringIn(list.current);
  }, [shot, rack]);
  return (
    <section aria-label="Shots" className="border-y border-base-300">
      <div className="flex items-center gap-3 px-2 pt-1">
        <div role="group" aria-label="Racks" className="flex gap-1 overflow-x-auto">
          {game.racks.map((one, index) => (
            <button
              key={one.id}
              aria-pressed={index === rack}
              className="chip"
              onClick={() => {
                const [first] = one.shots;
                goTo(first ? { shot: first.id } : { rack: index });
              }}
            >
              {rackWord} {index + 1}
              <span className="opacity-75">{standing(one, game)}</span>
            </button>
          ))}
          {game.racks.length === 0 && <span className="caption py-1">first {rackWord}</span>}
        </div>
        {judged && judged.shots.length > 1 && (
          <div className="hidden min-w-40 flex-1 md:block" data-testid="win-line">
            <RackLine
              rack={judged}
              className="h-7"
              unit={ledger?.unit ?? null}
              words={`How the ${rackWord} went, A above the middle`}
              current={
                Math.max(
                  0,
                  shots.findIndex((one) => one.id === shot),
                ) || null
              }
              onEntry={(index) => {
                const id = judged.shots[index]?.id;
                if (id) goTo({ shot: id });
              }}
            />
          </div>
        )}
      </div>
      <ol ref={list} className="flex gap-1 overflow-x-auto px-2 py-1">
        {shots.map((one, index) => (
          <li key={one.id}>
            <button
              className={`chip h-11 flex-col !items-start !gap-0 ${one.id === inserting ? "!border-l-4 !border-l-primary" : ""} ${one.document.hole ? "border-dashed italic" : ""}`}
              aria-current={one.id === shot}
              onClick={() => {
                goTo({ shot: one.id });
              }}
              title={one.ruling?.why ?? "cannot have happened like this"}
              data-shot={one.id}
            >
              <span className="flex w-full gap-1">
                <b>{index + 1}</b> {one.document.hole ? "not seen" : one.document.player}{" "}
                {words(one, game.header.discipline)}
              </span>
              <span className="flex items-center gap-1 text-[11px]">
                <span aria-hidden>{SIGNS[one.result ?? ""] ?? "·"}</span>
                {one.document.declared ??
                  (one.result === "scratch" ? scratch : one.result?.replace("-", " "))}
                {counted(one, game)}
                {costs.has(one.id) && (
                  <b data-testid="change">{short(costs.get(one.id) ?? 0, ledger?.unit ?? null)}</b>
                )}
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
              aria-current={shot === null && inserting === null}
              onClick={() => {
                goTo({});
              }}
            >
              {game.racks[rack]?.over ? `next ${rackWord}` : "next shot"}
            </button>
          </li>
        )}
      </ol>
    </section>
  );
});

/** How a rack ended: its winner and the score, in straight pool the points. */
function standing(rack: Game["racks"][number], game: Game): string {
  const score = `${rack.score["A"]}:${rack.score["B"]}`;
  if (disciplineOf(game.header.discipline).goes_on) return score;
  if (rack.winner) return `${rack.winner} ${score}`;
  return rack.over ? "no winner" : "open";
}

/** What a stroke scored, where points are counted. */
function counted(shot: Shot, game: Game): string {
  return disciplineOf(game.header.discipline).points && shot.ruling?.counted
    ? ` +${shot.ruling.counted}`
    : "";
}

function words(shot: Shot, discipline: string): string {
  const { called, kind, intent, hole } = shot.document;
  if (hole) return "";
  if (called?.ball) return `${sortOf(called.ball)} ${pocketWords(called.pocket, discipline)}`;
  return kind === "break" ? "break" : (intent ?? kind ?? "");
}
