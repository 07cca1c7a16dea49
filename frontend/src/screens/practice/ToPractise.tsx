/** What would bring a player most: by the ledgers, what a failure costs, how often it comes up, what practice changes. */
import { useState } from "react";
import { Link } from "react-router";

import { useToPractise } from "../../api/practice";
import { usePlayers } from "../../api/queries";
import type { ToPractise as Told } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { trade } from "../../trade";
import { ballName } from "../../table/balls";
import { percent, pocketWords, rateWords } from "../../words";

type Gain = Told["gains"][number];

export function ToPractise() {
  const players = usePlayers().data?.players.filter((one) => one.joined_to === null) ?? [];
  const [player, setPlayer] = useState<number | null>(null);
  const { data, error } = useToPractise(player);
  return (
    <section aria-label="What to practise" className="sheet space-y-2 p-3">
      <label className="flex flex-wrap items-baseline gap-2">
        <h2 className="text-lg">What to practise</h2>
        <select
          aria-label="Who"
          className="select select-sm w-auto"
          value={player ?? ""}
          onChange={(event) => {
            setPlayer(Number(event.target.value) || null);
          }}
        >
          <option value="">for whom?</option>
          {players.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
      <Problem of={error} />
      {data && data.gains.length === 0 && (
        <p>
          Nothing tells yet: it takes judged matches in which a kind of shot came off and failed five times
          each.
        </p>
      )}
      {player !== null && <ReportOfTime player={player} />}
      {data && data.gains.length > 0 && (
        <>
          <ol className="space-y-2" data-testid="gains">
            {data.gains.map((one) => (
              <Line key={one.family} of={one} />
            ))}
          </ol>
          <p className="caption">
            from {data.racks} judged racks; that practice turns a quarter of what fails, or gets to a league
            hand’s share, and saves half of what decisions cost, is assumed
          </p>
        </>
      )}
    </section>
  );
}

/** Racks won in a hundred played, with the half of the interval. */
const worth = (one: Gain) =>
  `${(100 * one.gain).toFixed(0)} ± ${(100 * (one.high - one.gain)).toFixed(0)} racks in a hundred`.replace(
    "-",
    "−",
  );

function Line({ of: one }: { of: Gain }) {
  return (
    <li className="border-t border-base-300 pt-2">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="font-serif text-[16px]">{one.family}</b>
        <span>{worth(one)}</span>
        {one.low <= 0 && <span className="caption">may be nothing</span>}
      </p>
      <p className="text-[13px]">
        {one.often.toFixed(1)} a rack
        {one.rate && one.could !== null
          ? `; come off ${rateWords(one.rate)}, ${percent(one.could)} aimed at; between coming off and failing lie ${(100 * one.swing).toFixed(0)} points`
          : `; ${(-100 * one.swing).toFixed(1)} points each`}
        .
      </p>
      <p className="text-[13px]">Practise {one.words}.</p>
      {one.shots.length > 0 && (
        <p className="mt-1 flex flex-wrap gap-1 text-[12px]">
          <span className="opacity-75">the dearest, as an exercise</span>
          {one.shots.map((shot) => (
            <Link key={shot.shot} className="chip" to={`/practice/new?game=${shot.game}&shot=${shot.shot}`}>
              {ballName(shot.ball)} {pocketWords(shot.pocket)},{" "}
              {(100 * shot.cost).toFixed(0).replace("-", "−")} points
            </Link>
          ))}
        </p>
      )}
    </li>
  );
}

/** One page for the student: of matches, lessons or solo runs, over all of it or from a day to another. */
function ReportOfTime({ player }: { player: number }) {
  const [time, setTime] = useState({ since: "", until: "" });
  const [session, setSession] = useState("match");
  const told = Object.entries(time).filter(([, day]) => day);
  const asked = new URLSearchParams({ player: String(player), session, ...Object.fromEntries(told) });
  return (
    <p className="flex flex-wrap items-baseline gap-2 text-[13px]">
      <select
        aria-label="Report of"
        className="select select-sm w-auto"
        value={session}
        onChange={(event) => {
          setSession(event.target.value);
        }}
      >
        {trade.sessions.map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
      {(["since", "until"] as const).map((end) => (
        <label key={end} className="flex items-baseline gap-1">
          {end}
          <input
            type="date"
            aria-label={`Report ${end}`}
            className="input input-sm w-36"
            value={time[end]}
            onChange={(event) => {
              setTime({ ...time, [end]: event.target.value });
            }}
          />
        </label>
      ))}
      <a className="chip" href={`/api/report/pdf?${asked.toString()}`} target="_blank" rel="noreferrer">
        report of this time
      </a>
    </p>
  );
}
