/** The plan for the rack: ball after ball, where the cue ball must go, and which hand-over decides it. */
import type { PlanBody } from "../../../api/types";
import { ballName } from "../../../table/balls";
import { pocketWords } from "../../../words";
import { useAsked } from "./state";
import { part } from "./words";

export function PlanTable({
  plan,
  discipline,
  points,
}: {
  plan: PlanBody;
  discipline: string;
  points: boolean;
}) {
  const shown = useAsked((state) => state.ball);
  const order = useAsked((state) => state.order);
  const begin = useAsked((state) => state.begin);
  return (
    <section aria-label="Plan of the rack" data-testid="plan">
      <p className="mb-1">
        {plan.break_ball ? "Makes the break shot" : points ? "Clears the table" : "Runs out"}
        {begin.length > 0 && ", played freely,"} <b>{part(plan.run_out)}</b>{" "}
        <span className="opacity-75">
          ({Math.round(100 * plan.run_out.low)} to {Math.round(100 * plan.run_out.high)}, {plan.run_out.n}{" "}
          {points ? "visits" : "racks"} played on)
        </span>
        {plan.key_ball && `; key ball ${plan.key_ball}`}
        {plan.break_ball && `; break ball ${plan.break_ball}`}
      </p>
      <p className="mb-1 flex flex-wrap gap-1">
        <button
          className="chip"
          aria-pressed={order}
          onClick={() => {
            useAsked.setState({ order: !order, option: null });
          }}
        >
          draw the order
        </button>
        {begin.length > 0 && (
          <button
            className="chip"
            onClick={() => {
              useAsked.setState({ begin: [] });
            }}
          >
            back to the best order
          </button>
        )}
      </p>
      <div className="overflow-x-auto">
        <table className="w-full min-w-136 text-left text-[12.5px] [&_th]:whitespace-nowrap">
          <thead className="caption">
            <tr>
              <th className="pr-2">ball</th>
              <th className="pr-2">pocket</th>
              <th className="pr-2">pot</th>
              <th className="pr-2">{points ? "still scores" : "to the end"}</th>
              <th className="pr-2">cut</th>
              <th className="pr-2">stroke</th>
              <th>rather too</th>
            </tr>
          </thead>
          <tbody>
            {plan.order.map((entry, index) => (
              <tr key={index} className={index === plan.key_shot ? "bg-base-200" : ""}>
                <td className="py-0.5 pr-2">
                  <button
                    className="chip"
                    aria-pressed={shown === entry.ball}
                    aria-label={`Map of the ${ballName(entry.ball)}`}
                    onClick={() => {
                      useAsked.setState({ ball: shown === entry.ball ? null : entry.ball, option: null });
                    }}
                  >
                    {entry.ball}
                  </button>
                  {index === plan.key_shot && <span className="ml-1 text-[11px]">key shot</span>}
                </td>
                <td className="pr-2">{pocketWords(entry.pocket, discipline)}</td>
                <td className="pr-2 whitespace-nowrap">
                  {entry.stroke ? `${String(Math.round(100 * entry.pot))} %` : "–"}
                </td>
                <td className="pr-2 whitespace-nowrap">
                  {points ? entry.value.toFixed(1) : `${(100 * entry.value).toFixed(1)} %`}{" "}
                  <span className="text-[11px] opacity-75">n {entry.value_rate.n}</span>
                </td>
                <td className="pr-2 whitespace-nowrap">
                  {entry.cut_angle_deg === null
                    ? "–"
                    : entry.straight
                      ? "straight"
                      : `${Math.round(entry.cut_angle_deg)}° ${entry.cut_side ?? ""}`}
                </td>
                <td className="pr-2">{entry.stroke_words}</td>
                <td>{entry.harmless ? entry.harmless.error : ""}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="caption mt-1">looks ahead: {plan.horizon}</p>
    </section>
  );
}
