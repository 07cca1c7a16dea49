/** The one question about a ball's name whose answer settles most. */
import { KeyChip as Do } from "../../../parts/Chips";
import { ballName } from "../../../table/balls";
import type { Actions } from "../actions";
import type { Workbench } from "../model/useWorkbench";

export function Question({ bench, actions }: { bench: Pick<Workbench, "foundShots">; actions: Actions }) {
  const { reading, shots, shot, answer } = bench.foundShots;
  const asked = reading?.question;
  if (!asked || reading.state === "running") return null;
  const there = shots.find((one) => one.id === asked.shot);
  const number = there ? shots.indexOf(there) + 1 : 0;
  return (
    <div
      className="flex flex-wrap items-center gap-1 px-2"
      role="group"
      aria-label="A question about a ball"
      data-testid="question"
    >
      <span className="text-[13px]">
        {shot?.id === asked.shot ? "Is the ball in the ring" : `In shot ${String(number)}: is it`} the{" "}
        {asked.ball} or the {asked.instead}?
      </span>
      <Do name="show it" hint={'"'} onClick={actions.showAsked} />
      {[asked.ball, asked.instead].map((ball) => (
        <button
          key={ball}
          className="chip"
          aria-label={`It is the ${ballName(ball)}`}
          onClick={() => {
            answer(asked, ball);
          }}
        >
          the {ball}
        </button>
      ))}
      <span className="caption">
        settles {String(asked.settles)} place{asked.settles === 1 ? "" : "s"}
      </span>
    </div>
  );
}
