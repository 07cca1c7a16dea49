/** Options that were weighed at this shot: whose idea, what speaks for it and against it, and which was taken. Two
 * options, computed ones too, side by side. */
import { useState } from "react";

import type { Game, Option, ShotDocument } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { pocketWords } from "../../../words";
import { MISHITS, Mishit, type Played } from "./Mishit";
import { part } from "./words";
import { useAsked } from "./state";

type One = NonNullable<ShotDocument["weighed"]>[number];

interface Props {
  game: Game;
  document: ShotDocument;
  who: string[];
  options: Option[];
  /** The table that the options are played on, for what a mis-hit does. */
  on: Played;
  onKeep: (weighed: One[]) => void;
}

export function Weighed({ game, document, who, options, on, onKeep }: Props) {
  const chosen = useAsked((state) => state.option);
  const other = useAsked((state) => state.other);
  const [by, setBy] = useState(who[0] ?? "coach");
  const [pro, setPro] = useState("");
  const [con, setCon] = useState("");
  const weighed = document.weighed ?? [];
  const option = chosen === null ? undefined : options[chosen];
  const words = (one: One) =>
    one.ball ? `${one.ball} ${pocketWords(one.pocket, game.header.discipline)}` : (one.route ?? "an idea");
  const add = () => {
    if (!option) return;
    const one: One = {
      by,
      ball: option.ball,
      pocket: option.pocket,
      route: option.ball ? option.route : option.words.title,
      for: pro || null,
      against: con || null,
      taken: null,
    };
    onKeep([...weighed, one]);
    setPro("");
    setCon("");
  };
  return (
    <section aria-label="Options weighed" className="space-y-1" data-testid="weighed">
      <h3 className="caption">weighed here</h3>
      <ul className="divide-y divide-base-300 text-[12.5px]">
        {weighed.map((one, at) => (
          <li key={at} className="flex flex-wrap items-baseline gap-x-2 py-0.5">
            <b dir="auto">{one.by}</b>
            <span>{words(one)}</span>
            {one.for && <span dir="auto">for: {one.for}</span>}
            {one.against && <span dir="auto">against: {one.against}</span>}
            <button
              className="chip"
              aria-pressed={one.taken === true}
              onClick={() => {
                onKeep(weighed.map((each, index) => ({ ...each, taken: index === at ? !one.taken : false })));
              }}
            >
              taken
            </button>
            <button
              className="chip"
              aria-label={`No longer weighed: ${words(one)}`}
              onClick={() => {
                onKeep(weighed.filter((_, index) => index !== at));
              }}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {option ? (
        <form
          className="flex flex-wrap items-center gap-2 text-[12.5px]"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <b>{option.words.title}</b>
          <select
            aria-label="Whose idea"
            className="select select-xs w-auto"
            value={by}
            onChange={(event) => {
              setBy(event.target.value);
            }}
          >
            {who.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
          <Argument label="What speaks for it" short="for" value={pro} onChange={setPro} />
          <Argument label="What speaks against it" short="against" value={con} onChange={setCon} />
          <button className="chip">weigh it</button>
          <button
            type="button"
            className="chip"
            aria-pressed={other === chosen}
            onClick={() => {
              useAsked.setState({ other: other === chosen ? null : chosen });
            }}
          >
            compare with another
          </button>
        </form>
      ) : (
        <p className="caption">choose an option above to weigh it, or to lay it over another</p>
      )}
      {option && other !== null && other !== chosen && options[other] && (
        <SideBySide
          one={options[other]}
          two={option}
          on={on}
          points={disciplineOf(game.header.discipline).points}
        />
      )}
    </section>
  );
}

function SideBySide({ one, two, on, points }: { one: Option; two: Option; on: Played; points: boolean }) {
  const rows: [string, (option: Option) => string][] = [
    ["worth", (option) => `${option.words.worth} ${option.words.spread}`],
    ["pot", (option) => part(option.pot)],
    ["well placed", (option) => part(option.position)],
    ["foul, cue ball lost too", (option) => part(option.foul)],
    ["leaves a pot", (option) => part(option.opponent_next)],
    ["cue ball", (option) => option.route],
    [
      points ? "scores" : "runs out",
      (option) => (points ? option.run.toFixed(1) : `${(100 * option.run).toFixed(0)} %`),
    ],
    ["where it stops, spread", (option) => `${(100 * spread(option)).toFixed(0)} cm`],
    ["stroke", (option) => option.words.stroke],
  ];
  return (
    <table className="w-full text-[12px]" data-testid="side-by-side">
      <thead>
        <tr>
          <td />
          <th scope="col" className="text-left">
            {one.words.title} <span className="caption">dashed</span>
          </th>
          <th scope="col" className="text-left">
            {two.words.title}
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, of]) => (
          <tr key={name} className="border-t border-base-300">
            <th scope="row" className="pr-2 text-left font-normal opacity-75">
              {name}
            </th>
            <td>{of(one)}</td>
            <td>{of(two)}</td>
          </tr>
        ))}
        {MISHITS.map((of) => (
          <tr key={of.words} className="border-t border-base-300">
            <th scope="row" className="pr-2 text-left font-normal opacity-75">
              {of.words}
            </th>
            {[one, two].map((option) => (
              <td key={option.words.title + option.route}>
                <Mishit option={option} on={on} of={of} />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The mean distance of where the cue ball stops from the middle of all of it, metres. */
function spread({ landing }: Option): number {
  if (landing.length === 0) return 0;
  const mean = [0, 1].map((at) => landing.reduce((sum, place) => sum + (place[at] ?? 0), 0) / landing.length);
  const apart = landing.map(([x = 0, y = 0]) => Math.hypot(x - (mean[0] ?? 0), y - (mean[1] ?? 0)));
  return apart.reduce((sum, one) => sum + one, 0) / apart.length;
}

function Argument(props: { label: string; short: string; value: string; onChange: (value: string) => void }) {
  return (
    <input
      aria-label={props.label}
      placeholder={props.short}
      maxLength={1000}
      className="input input-xs min-w-24 flex-1"
      value={props.value}
      onChange={(event) => {
        props.onChange(event.target.value);
      }}
    />
  );
}
