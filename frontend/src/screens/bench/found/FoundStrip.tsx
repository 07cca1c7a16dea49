/** The shots that were found in the recording, with how sure they are, until they are taken into the log. */
import { useEffect, useRef } from "react";

import type { FoundShot } from "../../../api/types";
import { KeyChip as Do } from "../../../parts/Chips";
import { bringIn } from "../../../parts/strip";
import type { Actions } from "../actions";
import { say } from "../model/state";
import type { Workbench } from "../model/useWorkbench";
import { Question } from "./Question";
import { TableTold } from "./TableTold";

const clock = (time: number) => `${String(Math.floor(time / 60))}:${(time % 60).toFixed(1).padStart(4, "0")}`;

/** Says so when a reading that was under way has come to its end. */
function useSaidWhenRead(state: string | undefined) {
  const before = useRef(state);
  useEffect(() => {
    if (before.current === "running" && state === "done") say("The recording is read to its end.");
    before.current = state;
  }, [state]);
}

type Shown = Pick<Workbench, "foundShots" | "recording" | "player" | "game">;

export function FoundStrip({ bench, actions }: { bench: Shown; actions: Actions }) {
  const { foundShots } = bench;
  const { reading, shots, shot, isLogged } = foundShots;
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    bringIn(list.current);
  }, [shot?.id]);
  useSaidWhenRead(reading?.state);
  if (!bench.recording || !reading || reading.state === "none") return null;
  const doubtful = shots.filter((one) => one.doubtful && one.kind === "shot").length;
  const counted = shots.filter((one) => one.kind === "shot");
  const open = counted.filter((one) => !isLogged(one));
  return (
    <section aria-label="Found in the recording" className="border-t border-base-300" data-testid="found">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 px-2 pt-1">
        <span className="caption">found in the recording</span>
        <Progress bench={bench} />
        <span className="text-[12px]" data-testid="found-count">
          {counted.length} shot{counted.length === 1 ? "" : "s"}
          {doubtful > 0 && `, ${String(doubtful)} to look at`}
        </span>
        {reading.state !== "running" && shots.some((one) => one.paths.length > 0) && (
          <TableTold bench={bench} actions={actions} />
        )}
        <span className="ml-auto flex flex-wrap gap-0.5">
          {shot && (
            <>
              <Do name="agree" hint="↵" onClick={actions.takeFound} />
              <Do name="delete" hint="Del" onClick={foundShots.remove} />
              <Do name="one with the next" hint="⇧M" onClick={foundShots.merge} />
              <Do
                name="split here"
                hint="⇧S"
                onClick={() => {
                  foundShots.split(bench.player.time);
                }}
              />
              <Do
                name={shot.kind === "shot" ? "not a shot" : "a shot"}
                hint="⇧X"
                onClick={actions.toggleKind}
              />
            </>
          )}
          <Do name="missed one" hint="⇧N" onClick={actions.addFound} />
          <Do name="next doubtful" hint={'"'} onClick={actions.nextDoubtful} off={doubtful === 0} />
          <Do name="take back" hint="⇧Z" onClick={foundShots.takeBack} off={reading.corrections === 0} />
          <Do
            name="agree to all that are sure"
            hint="⇧↵"
            onClick={actions.takeSure}
            off={open.length === 0}
          />
          <Do
            name={open.length ? `log all ${String(open.length)}` : "log all"}
            onClick={actions.takeAllFound}
            off={open.length === 0 || reading.state === "running"}
          />
        </span>
      </div>
      <Question bench={bench} actions={actions} />
      <ol ref={list} className="flex min-h-12 gap-1 overflow-x-auto px-2 py-1">
        {shots.map((one, number) => (
          <li key={one.id}>
            <Chip
              shot={one}
              number={number + 1}
              current={one.id === shot?.id}
              logged={isLogged(one)}
              onClick={() => {
                actions.lookAtFound(one);
              }}
            />
          </li>
        ))}
        {shots.length === 0 && (
          <li className="caption py-2">{reading.state === "running" ? "looking …" : "nothing"}</li>
        )}
      </ol>
    </section>
  );
}

function Chip(props: {
  shot: FoundShot;
  number: number;
  current: boolean;
  logged: boolean;
  onClick: () => void;
}) {
  const { shot } = props;
  const fate = [
    shot.moved > 0 && `${String(shot.moved)} moved`,
    shot.gone > 0 && `${String(shot.gone)} gone`,
  ].filter(Boolean);
  return (
    <button
      className={`chip h-11 flex-col !items-start !gap-0 ${shot.doubtful ? "border-dashed" : ""} ${shot.kind === "shot" ? "" : "opacity-70"}`}
      aria-current={props.current}
      data-found={shot.id}
      onClick={props.onClick}
      title={`${clock(shot.start)} to ${clock(shot.still)}, ${String(Math.round(100 * shot.confidence))} % sure`}
    >
      <span className="flex w-full gap-1">
        <b>{props.number}</b> {clock(shot.contact)}
        {shot.doubtful && <b aria-label="doubtful">?</b>}
      </span>
      <span className="text-[11px]">
        {shot.kind === "shot" ? fate.join(", ") || "nothing moved" : shot.kind}
        {props.logged && " · logged"}
      </span>
    </button>
  );
}

function Progress({ bench }: { bench: Shown }) {
  const { reading, stop } = bench.foundShots;
  if (!reading) return null;
  if (reading.state === "running")
    return (
      <>
        <progress
          className="progress progress-primary h-1.5 w-32"
          value={reading.reached}
          max={Math.max(1, reading.duration)}
          aria-label="How far the recording has been read"
        />
        <span className="text-[12px]">
          {clock(reading.reached)} of {clock(reading.duration)}
        </span>
        <Do name="stop" onClick={stop} />
      </>
    );
  const word = { done: "", failed: "stopped: ", stopped: "stopped by you", none: "" }[reading.state];
  return (
    <span
      className={`text-[12px] ${reading.state === "failed" ? "text-error" : ""}`}
      data-testid="reading-said"
    >
      {word}
      {reading.said}
    </span>
  );
}
