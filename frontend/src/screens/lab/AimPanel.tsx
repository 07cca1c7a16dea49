/** The aim line against the contact point: what is aimed at, what is touched, and what the stroke corrects. */
import { useEffect, useEffectEvent } from "react";

import { ballName } from "../../table/balls";
import type { Shape } from "../../table/shapes";
import { ring } from "../../table/shapes";
import { percent } from "../../words";
import { aimLine, type AimLine } from "./aimLine";
import type { LabState } from "./state";

const POINT = 0.006; // metres: a contact point as it is drawn

export interface Meant {
  ball: string;
  pocket: string;
}

interface Props {
  lab: LabState;
  /** What was meant, where the stroke itself is a free line. */
  meant: Meant | null;
  /** The direction in which the stroke is aimed, with throw and squirt allowed for; null while it is not known. */
  aim: number | null;
  onDraw: (shapes: Shape[]) => void;
}

export function AimPanel({ lab, meant, aim, onDraw }: Props) {
  const pot = lab.at && lab.pocket ? { ball: lab.at, pocket: lab.pocket } : meant;
  const told = pot && lineOf(lab, pot);
  const draw = useEffectEvent(() => {
    const cue = lab.balls["cue"];
    onDraw(told && cue ? shapesOf(told, cue, lab) : []);
  });
  const drawn = JSON.stringify([lab.balls, pot]);
  useEffect(() => {
    draw();
  }, [drawn]);
  if (!pot) return <p className="caption">choose the ball and the pocket of the pot first</p>;
  if (!told) return <p data-testid="aim-line">The {ballName(pot.ball)} cannot be cut there from here.</p>;
  const turned = aim === null ? null : turnOf(lab, told, aim);
  return (
    <div data-testid="aim-line" className="text-[13px]">
      <p>
        {told.side === "middle"
          ? "Straight: contact point and aim are the middle of the ball."
          : `Contact point ${centimetres(told.contactAside)} ${told.side} of the middle, aim line ${centimetres(told.aimAside)}: twice as far. ${percent(told.fullness)} full.`}
      </p>
      {turned !== null && (
        <p className="opacity-80">
          {Math.abs(turned) < 0.05
            ? "This stroke is aimed along that line."
            : `This stroke is aimed ${Math.abs(turned).toFixed(1)}° ${turned > 0 ? "left" : "right"} of it, for throw and squirt.`}
        </p>
      )}
    </div>
  );
}

const centimetres = (metres: number) => `${(100 * metres).toFixed(1)} cm`;

function lineOf(lab: LabState, pot: Meant): AimLine | null {
  const [cue, ball] = [lab.balls["cue"], lab.balls[pot.ball]];
  const mouth = lab.drawn.pockets.find((one) => one.name === pot.pocket)?.mouth;
  return cue && ball && mouth ? aimLine(cue, ball, mouth, lab.drawn.radius, lab.drawn.cue_radius) : null;
}

function shapesOf(told: AimLine, cue: [number, number], lab: LabState): Shape[] {
  return [
    { line: "ghost", points: ring(told.ghost, lab.drawn.cue_radius), closed: true },
    { line: "aim", points: [cue, told.ghost, told.passes] },
    { line: "contact", points: ring(told.contact, POINT, 12), closed: true },
    { line: "ghost", points: [told.ghost, told.contact] },
  ];
}

/** Degrees from the plain line to the stroke's own, left above 0. */
function turnOf(lab: LabState, told: AimLine, aim: number): number {
  const cue = lab.balls["cue"] ?? [0, 0];
  const plain = Math.atan2(told.ghost[1] - cue[1], told.ghost[0] - cue[0]);
  const turn = Math.atan2(Math.sin(aim - plain), Math.cos(aim - plain));
  return (turn * 180) / Math.PI;
}
