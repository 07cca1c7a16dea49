/** What it costs to begin with another ball, and on an open table which group to take. */
import type { PlanBody } from "../../../api/types";
import { ballName } from "../../../table/balls";
import { useAsked } from "./state";
import { BreakShotWords } from "./BreakShotWords";
import { part } from "./words";

const SHORT = 4;

export function OtherOrders({ plan, points }: { plan: PlanBody; points: boolean }) {
  const begin = useAsked((state) => state.begin);
  const [best, ...others] = plan.instead;
  if ((!best || others.length === 0) && plan.break_shots.length === 0) return null;
  const price = (cost: number) =>
    points ? cost.toFixed(1) : (100 * cost).toFixed(cost > 0 && cost < 0.01 ? 1 : 0);
  const asked = begin[0];
  const shown = others.filter((one, at) => at < SHORT || one.ball === asked);
  return (
    <section aria-label="Other orders" className="mt-2" data-testid="other-orders">
      {plan.groups.length > 1 && (
        <p className="mb-1" data-testid="groups">
          {plan.groups.map((one, at) => (
            <span key={one.group}>
              {at > 0 && "; "}
              {at === 0 ? `Take the ${one.group}` : one.group}: runs out <b>{part(one.run)}</b>, wins{" "}
              <b>{Math.round(100 * one.win)} %</b>{" "}
              <span className="text-[11px] opacity-75">
                n {one.run.n}, from the {ballName(one.ball)}
              </span>
            </span>
          ))}
        </p>
      )}
      {plan.break_shots.length > 0 && (
        <ul className="mb-1" aria-label="Break shots" data-testid="break-shots">
          {plan.break_shots.map((one) => (
            <li key={one.ball}>
              Break shot with the <b>{ballName(one.ball)}</b>: <BreakShotWords of={one} what="the rack" />
            </li>
          ))}
        </ul>
      )}
      {best && others.length > 0 && (
        <h3 className="caption">begun with another ball than the {ballName(best.ball)}</h3>
      )}
      <ul className="divide-y divide-base-300">
        {shown.map((one) => (
          <li key={one.ball} className="flex flex-wrap items-baseline gap-x-2 py-0.5 text-[12.5px]">
            <button
              className="chip"
              aria-pressed={asked === one.ball}
              aria-label={`The order that begins with the ${ballName(one.ball)}`}
              onClick={() => {
                useAsked.setState({ begin: asked === one.ball ? [] : [one.ball], order: true, option: null });
              }}
            >
              {one.ball}
            </button>
            <b className="whitespace-nowrap">
              {one.equal ? "as good" : `−${price(one.cost)} ${plan.break_ball === null ? "points" : "balls"}`}
            </b>
            <span className="text-[11px] opacity-75">
              ± {price(one.error)}, n {one.value.n}
            </span>
            <span>{one.why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
