/** Percentages: potting by cut angle and distance, by pocket, kind and player, and the scatter of position errors. */
import { useDeferredValue, useState } from "react";
import {
  useFigures,
  useGames,
  usePlayers,
  useShotsBehind,
  type FigureFilter,
  type Pick,
} from "../../api/queries";
import type { Mean } from "../../api/types";
import { DISCIPLINES } from "../../games/discipline";
import { Problem } from "../../parts/Problem";
import { Search } from "../../parts/Search";
import { percent, pocketWords } from "../../words";
import { Breaks } from "./Breaks";
import { Families } from "./Families";
import { FeltList } from "./FeltList";
import { HandOf } from "./HandOf";
import { People } from "./People";
import { PottingMap } from "./PottingMap";
import { Scatter } from "./Scatter";
import { ShotsList } from "./ShotsList";

const NOTHING: FigureFilter = {
  session: "match",
  discipline: null,
  player: null,
  game: null,
  target_source: null,
};

export function Survey() {
  const [filter, setFilter] = useState(NOTHING);
  const [picked, setPicked] = useState<Pick | null>(null);
  const figures = useFigures(filter);
  const data = figures.data;
  const set = (patch: Partial<FigureFilter>) => {
    setFilter({ ...filter, ...patch });
    setPicked(null);
  };
  return (
    <div className="space-y-5">
      <Filters filter={filter} onChange={set} />
      <Problem of={figures.error} />
      {picked && (
        <aside className="z-10 lg:fixed lg:top-20 lg:right-4 lg:w-[340px]">
          <Behind filter={filter} pick={picked} />
        </aside>
      )}
      {data && (
        <>
          <p data-testid="overall">
            <b className="font-serif text-[22px]">
              {data.overall.p === null ? "–" : percent(data.overall.p)}
            </b>{" "}
            of pots made{" "}
            <span className="opacity-75">
              (95 %: {percent(data.overall.low)} to {percent(data.overall.high)}), n {data.overall.n}
            </span>
          </p>
          <p className="max-w-3xl text-[12px] opacity-80">
            {data.try_rule} Intervals are 95 %.{" "}
            {data.without_place > 0 &&
              `Tries whose places are not known (${data.without_place}) are in no field of the map. `}
            {data.holes > 0 &&
              `${data.holes === 1 ? "One stretch" : `${data.holes} stretches`} that nobody saw ${data.holes === 1 ? "is" : "are"} left out.`}
          </p>
          <div className="grid gap-8 lg:grid-cols-2">
            <PottingMap
              cells={data.map}
              onPick={(title, cell) => {
                setPicked({ title, by: "cell", name: String(cell.number) });
              }}
            />
            <section aria-label="Position errors">
              <h2 className="mb-1 text-lg">Where the cue ball stopped, from its target</h2>
              <Scatter
                errors={data.errors}
                n={data.distance.n}
                onPick={(shot) => {
                  setPicked({ title: "this position", by: "shot", name: shot });
                }}
              />
              <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-4">
                <BiasRow name="Along" mean={data.along} plus="long" minus="short" />
                <BiasRow name="Across" mean={data.across} plus="left" minus="right" />
                <BiasRow name="Distance" mean={data.distance} plus="" minus="" />
              </dl>
            </section>
          </div>
          <div className="grid gap-8 md:grid-cols-3">
            <Families
              title="By player"
              families={data.by_player}
              words={(name) => name}
              onPick={(name) => {
                setPicked({ title: name, by: "player", name });
              }}
            />
            <Families
              title="By pocket"
              families={data.by_pocket}
              words={pocketWords}
              onPick={(name) => {
                setPicked({ title: pocketWords(name), by: "pocket", name });
              }}
            />
            <Families
              title="By kind"
              families={data.by_kind}
              words={(name) => name}
              onPick={(name) => {
                setPicked({ title: name, by: "kind", name });
              }}
            />
          </div>
          {filter.player !== null && (
            <HandOf player={filter.player} session={filter.session} discipline={filter.discipline} />
          )}
          <Breaks tables={data.breaks} onPick={setPicked} />
          <FeltList />
          <People />
        </>
      )}
    </div>
  );
}

function Filters({
  filter,
  onChange,
}: {
  filter: FigureFilter;
  onChange: (patch: Partial<FigureFilter>) => void;
}) {
  const players = usePlayers();
  const [search, setSearch] = useState("");
  const { games, n } = useGames(useDeferredValue({ search }));
  return (
    <div className="flex flex-wrap gap-2">
      <select
        aria-label="Session"
        className="select select-sm w-auto"
        value={filter.session ?? ""}
        onChange={(event) => {
          onChange({ session: event.target.value });
        }}
      >
        {["match", "solo", "both-sides", "partners", "lesson"].map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
      <select
        aria-label="Game"
        className="select select-sm w-auto"
        value={filter.discipline ?? ""}
        onChange={(event) => {
          onChange({ discipline: event.target.value || null });
        }}
      >
        <option value="">all games</option>
        {DISCIPLINES.map((one) => (
          <option key={one.name} value={one.name}>
            {one.title}
          </option>
        ))}
      </select>
      <select
        aria-label="Player"
        className="select select-sm w-auto"
        value={filter.player ?? ""}
        onChange={(event) => {
          onChange({ player: Number(event.target.value) || null });
        }}
      >
        <option value="">all players</option>
        {players.data?.players.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
      {(search || n > (games?.length ?? 0)) && (
        <Search label="Find a match" placeholder="find a match" value={search} onChange={setSearch} />
      )}
      <select
        aria-label="Match"
        className="select select-sm w-auto max-w-52"
        value={filter.game ?? ""}
        onChange={(event) => {
          onChange({ game: event.target.value || null });
        }}
      >
        <option value="">all matches</option>
        {games?.map((one) => (
          <option key={one.id} value={one.id}>
            {one.title}
          </option>
        ))}
      </select>
      <select
        aria-label="Whose intention"
        className="select select-sm w-auto"
        value={filter.target_source ?? ""}
        onChange={(event) => {
          onChange({ target_source: event.target.value || null });
        }}
      >
        <option value="">any intention</option>
        <option value="stated">stated by the player</option>
        <option value="inferred">inferred by the reviewer</option>
      </select>
    </div>
  );
}

function BiasRow({ name, mean, plus, minus }: { name: string; mean: Mean; plus: string; minus: string }) {
  const cm = (value: number | null) =>
    value === null ? "–" : `${Math.abs(value * 100).toFixed(1)} cm ${value >= 0 ? plus : minus}`;
  const to = (mean.mean ?? 0) < 0 ? -100 : 100; // the interval in the same direction as the mean
  const ends = [mean.low, mean.high].flatMap((end) => (end === null ? [] : [end * to])).sort((a, b) => a - b);
  const interval = ends.length ? `${ends.map((end) => end.toFixed(1)).join(" to ")}, ` : "";
  return (
    <>
      <dt className="opacity-75">{name}</dt>
      <dd>
        {cm(mean.mean)}{" "}
        <span className="opacity-75">
          ({interval}n {mean.n})
        </span>
      </dd>
    </>
  );
}

function Behind({ filter, pick }: { filter: FigureFilter; pick: Pick }) {
  return <ShotsList title={pick.title} {...useShotsBehind(filter, pick)} />;
}
