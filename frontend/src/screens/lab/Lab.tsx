/** The shot lab: what a stroke does on this layout, how often it comes off, and what really happened. */
import { useDeferredValue, useEffect, useMemo, useState } from "react";
import { Link } from "react-router";

import { useChange, useSimulation } from "../../api/queries";
import type { Game, Lab as Choices, Place, Places, Rack, Shot, Simulated } from "../../api/types";
import { TableDrawing } from "../../table/TableDrawing";
import { ring, type Shape } from "../../table/shapes";
import { shotChange } from "../bench/model/changes";
import { AsPlayed } from "./AsPlayed";
import { Backwards } from "./Backwards";
import { BallsPanel } from "./BallsPanel";
import { courseShapes, placesAt } from "./course";
import { Kept, type Variant } from "./Kept";
import { KeptTables } from "./KeptTables";
import { Outcome } from "./Outcome";
import { StrokePanel } from "./StrokePanel";
import { TablePanel } from "./TablePanel";
import { remember, requestOf, type LabState, type Patch } from "./state";
import { useAnimation, type Animation } from "./useAnimation";
import { THERE } from "./Ways";

const FEW = 500; // samples while things move
const MANY = 2000; // samples once they rest
const SETTLED = 400; // milliseconds without a change
const NOTHING = 0.005; // metres between two stops that are one
const REACH = 0.12; // metres round a pocket's mouth that mean the pocket

interface Props {
  choices: Choices;
  start: LabState;
  from?: { game: Game; rack: Rack; shot: Shot };
}

export function Lab({ choices, start, from }: Props) {
  const [lab, setLab] = useState(start);
  const [kept, setKept] = useState<Variant[]>([]);
  const [played, setPlayed] = useState(from !== undefined);
  const [backwards, setBackwards] = useState<{ placing: boolean; to: Place | null }>({
    placing: false,
    to: null,
  });
  const [taught, setTaught] = useState<Shape[]>([]);
  const settled = useSettled(lab);
  useEffect(() => {
    if (!from) remember(settled);
  }, [from, settled]);
  const shown = useDeferredValue(lab);
  const shot = useSimulation(requestOf(shown, 0));
  const cloud = useSimulation(requestOf(settled === lab ? settled : shown, settled === lab ? MANY : FEW));
  const animation = useAnimation(shot.data?.shot.duration ?? 0);
  const change = (patch: Patch) => {
    animation.rest();
    setLab((before) => ({ ...before, ...patch }));
  };
  const after = useMemo(() => from?.shot.after?.balls ?? {}, [from]);
  const shapes = useMemo(() => {
    if (!shot.data) return [];
    const wanted: Shape[] = backwards.to
      ? [{ line: "acceptable", points: ring(backwards.to, THERE), closed: true }]
      : [];
    return [
      ...wanted,
      ...taught,
      ...courseShapes(shot.data, lab.drawn),
      ...(played ? difference(shot.data, after) : []),
    ];
  }, [shot.data, lab.drawn, played, after, backwards.to, taught]);
  const { now } = animation;
  const balls = now !== null && shot.data ? placesAt(lab.balls, shot.data, now) : lab.balls;
  useSpace(animation);

  const point = (place: Place) => {
    if (backwards.placing) {
      setBackwards({ placing: false, to: place });
      return;
    }
    const near = lab.drawn.pockets.find(
      (one) => Math.hypot(one.mouth[0] - place[0], one.mouth[1] - place[1]) < REACH,
    );
    const cue = lab.balls["cue"];
    if (near && lab.at) change({ pocket: near.name });
    else if (cue) change({ at: null, pocket: null, aim: Math.atan2(place[1] - cue[1], place[0] - cue[0]) });
  };
  const final = (shot.data?.shot.final as { balls?: Places } | undefined)?.balls ?? {};
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <LabHead from={from} lab={lab} played={played} onPlayed={setPlayed} />
      <div className="grid items-start gap-2 px-3 pb-3 lg:grid-cols-[minmax(0,1fr)_300px]">
        <div className="min-w-0">
          <div className="sheet">
            <TableDrawing
              table={lab.drawn}
              balls={balls}
              ghostly={played ? after : {}}
              shapes={shapes}
              cloud={cloud.data?.samples?.landing}
              chosen={lab.at}
              label="Plan of the table with the simulated shot"
              onPoint={point}
              onDrag={(ball, place) => {
                change({ balls: { ...lab.balls, [ball]: onBed(place, lab) } });
              }}
              onBall={(ball) => {
                if (ball !== "cue") change({ at: ball, pocket: lab.pocket ?? "foot-left" });
              }}
            />
            <Clock animation={animation} duration={shot.data?.shot.duration ?? 0} />
          </div>
          {shot.error && (
            <p role="alert" className="p-3 pb-0 text-error">
              {shot.error.message}
            </p>
          )}
          <Outcome
            shot={shot.error ? undefined : shot.data}
            cloud={cloud.error ? undefined : cloud.data}
            busy={cloud.isFetching}
            called={lab.at !== null}
          />
          <div className="flex flex-wrap items-center gap-2 px-3">
            <button
              className="chip"
              disabled={!cloud.data?.samples || cloud.isFetching || cloud.error !== null}
              onClick={() => {
                if (cloud.data) setKept([...kept, { lab, answer: cloud.data }]);
              }}
            >
              put aside to compare
            </button>
            {from && <KeepStroke from={from} lab={lab} />}
            <span className="caption ml-auto">shaded: half, 80 % and 95 % of the cue ball&apos;s stops</span>
          </div>
          <Kept
            variants={kept}
            onShow={(variant) => {
              animation.rest();
              setLab(variant);
            }}
            onDrop={(index) => {
              setKept(kept.filter((_, one) => one !== index));
            }}
          />
          {from && played && (
            <AsPlayed
              game={from.game}
              shot={from.shot}
              balls={taught.length ? lab.balls : final}
              shapes={shapes}
              aiming={taught.length > 0}
            />
          )}
        </div>
        <div className="flex flex-col gap-2">
          <StrokePanel lab={lab} choices={choices} cueSpeed={shot.data?.cue_speed} change={change} />
          <Backwards
            lab={lab}
            to={backwards.to}
            placing={backwards.placing}
            meant={calledIn(from?.shot)}
            aim={aimOf(shot.data)}
            onDraw={setTaught}
            onPlacing={(placing) => {
              setBackwards({ ...backwards, placing });
            }}
            change={change}
          />
          <TablePanel lab={lab} choices={choices} change={change} />
          {!from && <BallsPanel lab={lab} choices={choices} change={change} />}
          <KeptTables lab={lab} choices={choices} change={change} />
        </div>
      </div>
    </div>
  );
}

function LabHead({
  from,
  lab,
  played,
  onPlayed,
}: {
  from: Props["from"];
  lab: LabState;
  played: boolean;
  onPlayed: (played: boolean) => void;
}) {
  const rack = from && from.game.racks.indexOf(from.rack) + 1;
  const number = from && from.rack.shots.indexOf(from.shot) + 1;
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-3 py-2">
      <h1 className="text-xl">Shot lab</h1>
      {from ? (
        <>
          <Link className="min-w-0 truncate underline" to={`/match/${from.game.id}?shot=${from.shot.id}`}>
            {from.game.header.title ?? "match"}, rack {rack}, shot {number}
          </Link>
          <button
            className="chip"
            aria-pressed={played}
            onClick={() => {
              onPlayed(!played);
            }}
          >
            as played
          </button>
        </>
      ) : (
        <span className="opacity-75">
          Drag the balls. Click a ball and a pocket for the pot, or the cloth for a free line.
        </span>
      )}
      <span className="caption ml-auto">{lab.discipline}</span>
    </div>
  );
}

/** The pot that was meant with a logged shot. */
function calledIn(shot: Shot | undefined) {
  const called = shot?.document.called;
  return called?.ball && called.pocket ? { ball: called.ball, pocket: called.pocket } : null;
}

/** In which direction the simulated stroke was aimed. */
function aimOf(shot: Simulated | undefined): number | null {
  const stroke = shot?.shot.stroke as { aim?: number } | undefined;
  return stroke?.aim ?? null;
}

/** From where the simulator lets the cue ball stop to where it stopped. */
function difference(shot: Simulated, after: Places): Shape[] {
  const stop = (shot.shot.final as { balls?: Places }).balls?.["cue"];
  const real = after["cue"];
  if (!stop || !real) return [];
  const away = Math.hypot(stop[0] - real[0], stop[1] - real[1]);
  if (away < NOTHING) return [];
  return [{ line: "error", points: [stop, real], label: `played ${(away * 100).toFixed(0)} cm off` }];
}

function Clock({ animation, duration }: { animation: Animation; duration: number }) {
  return (
    <div className="flex flex-wrap items-center gap-3 border-t border-base-300 px-3 py-1.5">
      <button className="chip" onClick={animation.toggle}>
        {animation.playing ? "pause" : "play"} <span className="key">space</span>
      </button>
      <input
        type="range"
        className="range range-xs min-w-32 flex-1"
        aria-label="Moment of the shot"
        min={0}
        max={duration}
        step={0.01}
        value={animation.now ?? 0}
        onChange={(event) => {
          animation.seek(event.target.valueAsNumber);
        }}
      />
      <span className="w-24 text-right">
        {(animation.now ?? 0).toFixed(2)} of {duration.toFixed(1)} s
      </span>
      <button className="chip" disabled={animation.now === null} onClick={animation.rest}>
        before the shot
      </button>
    </div>
  );
}

/** Write the stroke into the logged shot. */
function KeepStroke({ from, lab }: { from: NonNullable<Props["from"]>; lab: LabState }) {
  const change = useChange(from.game);
  const { speed, side, height, elevation, at, pocket, part, aim } = lab;
  const { id, seat, document } = from.shot;
  const towards = at
    ? { at, pocket, part: part as "centre", aim: null }
    : { at: null, pocket: null, part: null, aim };
  const stroke = { ...document.stroke, speed, side, height, elevation, ...towards };
  const same = JSON.stringify(document.stroke ?? {}) === JSON.stringify(stroke);
  return (
    <button
      className="chip"
      disabled={same}
      onClick={() => {
        change("stroke", [shotChange(id, from.rack.id, seat, { ...document, stroke })]);
      }}
    >
      {same ? "stroke is kept with the shot" : "keep this stroke with the shot"}
    </button>
  );
}

/** The nearest place on the bed, clear of the cushions. */
function onBed([x, y]: Place, lab: LabState): Place {
  const { length, width, radius } = lab.drawn;
  const within = (value: number, most: number) => Math.min(most - radius, Math.max(radius, value));
  return [within(x, length), within(y, width)];
}

/** The state once it has not changed for a while; before that, the last one that had. */
function useSettled(lab: LabState): LabState {
  const [settled, setSettled] = useState(lab);
  useEffect(() => {
    const timer = setTimeout(() => {
      setSettled(lab);
    }, SETTLED);
    return () => {
      clearTimeout(timer);
    };
  }, [lab]);
  return settled;
}

function useSpace(animation: Animation) {
  const { toggle } = animation;
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (event.key !== " " || target?.closest("button, select, input, a")) return;
      event.preventDefault();
      toggle();
    };
    window.addEventListener("keydown", key);
    return () => {
      window.removeEventListener("keydown", key);
    };
  }, [toggle]);
}
