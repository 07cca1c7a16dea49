/** What the shot does without error, and how often it comes off with this hand. */
import type { Simulated } from "../../api/types";
import { pocketWords, rateWords } from "../../words";
import { cueWay } from "./course";

interface Props {
  shot: Simulated | undefined;
  cloud: Simulated | undefined;
  busy: boolean;
  called: boolean;
}

export function Outcome({ shot, cloud, busy, called }: Props) {
  if (!shot) return null;
  const { potted, scratch, off_table, first_contact, duration, miscue, capped } = shot.shot;
  const samples = cloud?.samples;
  const fallen = potted.map((fall) => `${fall.ball} in ${pocketWords(fall.pocket)}`);
  return (
    <section
      aria-label="Outcome"
      className="grid gap-x-6 gap-y-2 p-3 md:grid-cols-[1fr_auto]"
      data-testid="outcome"
    >
      <div className="min-w-0">
        <p className="font-serif text-[16px]">
          {fallen.length ? `${fallen.join(", ")}.` : "Nothing falls."}
          {scratch && " Scratch."}
          {off_table.length > 0 && ` Off the table: ${off_table.join(", ")}.`}
          {first_contact === null && " No ball is touched."}
        </p>
        <p className="opacity-80">
          Cue ball: {cueWay(shot.shot.events).join(", ")}. {duration.toFixed(1)} s. Played without any error
          of the hand.
        </p>
        {miscue && <p className="text-error">Miscue: the tip is more than half a radius off centre.</p>}
        {capped && <p className="text-error">Not played to its end: too many contacts.</p>}
      </div>
      {samples && (
        <dl
          className={`grid grid-cols-[auto_auto] gap-x-3 self-start ${busy ? "opacity-75" : ""}`}
          data-testid="rates"
        >
          <dt>{called ? "pot, no foul" : "legal pot"}</dt>
          <dd>{rateWords(samples.pot)}</dd>
          <dt>scratch</dt>
          <dd>{rateWords(samples.scratch_rate)}</dd>
          <dt>any foul</dt>
          <dd>{rateWords(samples.foul_rate)}</dd>
        </dl>
      )}
    </section>
  );
}
