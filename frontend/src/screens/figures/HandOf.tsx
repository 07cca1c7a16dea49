/** A player's hand as the record tells it, and what it means for every family of pots. */
import { useHand } from "../../api/choices";
import type { Hand } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { percent } from "../../words";

type Parameter = Hand["speed"];

interface Props {
  player: number;
  session: string | null;
  discipline: string | null;
}

export function HandOf({ player, session, discipline }: Props) {
  const query = useHand(player, session, discipline);
  const hand = query.data;
  return (
    <section aria-label="Hand" data-testid="hand">
      <h2 className="mb-1 text-lg">The hand, as far as the record tells it</h2>
      <Problem of={query.error} />
      {hand && (
        <div className="grid gap-8 lg:grid-cols-2">
          <div>
            <p className="mb-2 max-w-prose">
              On {hand.on}: {hand.says}.
            </p>
            <table className="w-full text-left">
              <thead className="caption">
                <tr>
                  <th>error of</th>
                  <th>standard deviation</th>
                  <th>95 %</th>
                  <th>from</th>
                </tr>
              </thead>
              <tbody>
                <Row
                  name="aim (the cue ball's direction)"
                  of={hand.aim_deg}
                  unit="°"
                  digits={2}
                  tries="tries"
                />
                <Row
                  name="speed"
                  of={hand.speed}
                  unit=" %"
                  digits={1}
                  scale={100}
                  tries="positions and lags"
                />
                <Row name="judging a rail" of={hand.rail_deg} unit="°" digits={1} tries="kicks" />
                <Row name="tip, to the side" of={hand.side} unit=" R" digits={3} tries="" />
                <Row name="tip, up and down" of={hand.height} unit=" R" digits={3} tries="" />
              </tbody>
            </table>
            <p className="mt-2">To know it better:</p>
            <ul className="ml-5 list-disc">
              {hand.needs.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
          </div>
          <Families families={hand.families} />
        </div>
      )}
    </section>
  );
}

function Row({
  name,
  of,
  unit,
  digits,
  scale = 1,
  tries,
}: {
  name: string;
  of: Parameter;
  unit: string;
  digits: number;
  scale?: number;
  tries: string;
}) {
  const words = (value: number) => (scale * value).toFixed(digits);
  return (
    <tr className="border-t border-base-300">
      <td className="py-1">{name}</td>
      <td>
        <b>
          {words(of.value)}
          {unit}
        </b>
      </td>
      <td>
        {words(of.low)} to {words(of.high)}
      </td>
      <td className={of.speaks ? "" : "opacity-75"}>
        {of.speaks ? `the record, ${of.n} ${tries}` : of.n ? `mostly assumed, ${of.n} ${tries}` : "assumed"}
      </td>
    </tr>
  );
}

/** Record, prediction and both together, for each cut and distance with tries; the others by the hand alone. */
function Families({ families }: { families: Hand["families"] }) {
  const shown = families.filter((one) => one.record.n > 0);
  return (
    <table className="w-full text-left text-[12.5px]">
      <thead className="caption">
        <tr>
          <th>cut</th>
          <th>distance</th>
          <th>record</th>
          <th>by the hand</th>
          <th>both together</th>
        </tr>
      </thead>
      <tbody>
        {shown.map((one) => (
          <tr key={`${one.cut[0]} ${one.distance[0]}`} className="border-t border-base-300">
            <td className="py-0.5">
              {one.cut[0]} to {one.cut[1]}°
            </td>
            <td>
              {one.distance[0]} {one.distance[1] === null ? "m and more" : `to ${one.distance[1]} m`}
            </td>
            <td>
              {percent(one.record.p ?? 0)} <span className="text-[11px] opacity-75">n {one.record.n}</span>
            </td>
            <td>{percent(one.predicted)}</td>
            <td>
              <b>{percent(one.shrunk.p ?? 0)}</b>{" "}
              <span className="text-[11px] opacity-75">
                {percent(one.shrunk.low)} to {percent(one.shrunk.high)}
              </span>
            </td>
          </tr>
        ))}
        {shown.length === 0 && (
          <tr>
            <td colSpan={5}>no tries with known places: the hand's prediction is all there is</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
