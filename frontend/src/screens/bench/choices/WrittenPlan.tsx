/** The order as player or coach lays it down at this shot: ball after ball, with pockets, words and a reason. */
import type { Pocket, Rack } from "../../../api/types";
import { disciplineOf } from "../../../games/discipline";
import { ballName } from "../../../table/balls";
import { POCKETS, percent, pocketWords } from "../../../words";
import type { Actions } from "../actions";
import { rackChange } from "../model/changes";
import type { Workbench } from "../model/useWorkbench";
import { layBall, useAsked, type Draft } from "./state";

export type WrittenOrder = NonNullable<NonNullable<Rack["document"]["plan"]>["plans"]>[number];

export const plansOf = (rack: Rack | null | undefined): WrittenOrder[] => rack?.document.plan?.plans ?? [];

export function WrittenPlan({ bench, actions }: { bench: Workbench; actions: Actions }) {
  const { game, entry } = bench;
  const rack = bench.found?.rack ?? (game.racks.at(-1)?.over ? null : game.racks.at(-1));
  const players = game.header.players as Record<string, { name?: string }> | undefined;
  const who = [players?.["A"]?.name ?? "A", players?.["B"]?.name ?? "B", "coach"];
  const laying = useAsked((state) => state.laying);
  const draft = laying?.entry === entry.key ? laying : null;
  if (!rack) return null;
  const { rotation } = disciplineOf(game.header.discipline);
  const plans = plansOf(rack);
  const balls = Object.keys(entry.before).filter((ball) => ball !== "cue");
  const set = (patch: Partial<Draft>) => {
    if (draft) useAsked.setState({ laying: { ...draft, ...patch } });
  };
  const begin = () => {
    const empty = { entry: entry.key, by: who[0] ?? "A", order: [], words: "", reason: "", felt: "" };
    useAsked.setState({ laying: draft ? null : empty });
  };
  const keep = () => {
    if (!draft) return;
    const felt = Number.parseFloat(draft.felt);
    const plan: WrittenOrder = {
      from: bench.found ? rack.shots.indexOf(bench.found.shot) : rack.shots.length,
      by: draft.by,
      order: draft.order,
      words: draft.words || null,
      reason: draft.reason || null,
      felt: Number.isFinite(felt) ? Math.min(100, Math.max(0, felt)) / 100 : null,
    };
    actions.write("plan", [rackChange(game, rack, { plan: { plans: [...plans, plan] } })]);
    useAsked.setState({ laying: null });
  };
  return (
    <section aria-label="Written plan" className="space-y-1" data-testid="written-plan">
      <div className="flex flex-wrap items-baseline gap-2">
        <h3 className="caption">the plan as it was laid down</h3>
        <button className="chip" aria-expanded={draft !== null} onClick={begin}>
          lay one down
        </button>
      </div>
      <ul className="divide-y divide-base-300">
        {plans.map((one, at) => (
          <li key={at} className="flex flex-wrap items-baseline gap-x-2 py-0.5 text-[12.5px]">
            <b dir="auto">{one.by}</b>
            <span className="opacity-75">{fromWords(one.from)}</span>
            <span>{(one.order ?? []).map(inShort).join(" – ") || "in words"}</span>
            {one.words && <span dir="auto">{one.words}</span>}
            {one.reason && (
              <span className="opacity-75" dir="auto">
                because {one.reason}
              </span>
            )}
            {one.felt != null && <span>felt {percent(one.felt)}</span>}
            <button
              className="chip"
              disabled={rotation || !(one.order ?? []).some((each) => each.ball in entry.before)}
              title={rotation ? "in this game there is one order" : undefined}
              onClick={() => {
                const left = (one.order ?? [])
                  .map((each) => each.ball)
                  .filter((ball) => ball in entry.before);
                useAsked.setState({ begin: left, order: true, option: null });
              }}
            >
              what it is worth here
            </button>
            <button
              className="chip"
              aria-label={`Remove the plan of ${one.by ?? "nobody"}`}
              onClick={() => {
                const plans_ = plans.filter((_, index) => index !== at);
                actions.write("plan removed", [rackChange(game, rack, { plan: { plans: plans_ } })]);
              }}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {draft && (
        <form
          className="space-y-2 border border-base-300 p-2"
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
        >
          <label className="flex items-center gap-2">
            Whose
            <select
              className="select select-xs w-auto"
              value={draft.by}
              onChange={(event) => {
                set({ by: event.target.value });
              }}
            >
              {who.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </label>
          <div role="group" aria-label="Balls in their order" className="flex flex-wrap gap-1">
            {balls.map((ball) => {
              const at = draft.order.findIndex((one) => one.ball === ball);
              return (
                <button
                  key={ball}
                  type="button"
                  className="chip"
                  aria-pressed={at >= 0}
                  onClick={() => {
                    layBall(ball);
                  }}
                >
                  {at >= 0 && <b>{at + 1}.</b>} {ballName(ball)}
                </button>
              );
            })}
          </div>
          <p className="opacity-75">
            Press the balls in turn, here or on the table; pressing the cloth says where the cue ball should
            be to play the ball pressed last.
          </p>
          {draft.order.length > 0 && (
            <ol className="space-y-1" aria-label="Pockets, sides and speeds">
              {draft.order.map((one, at) => (
                <li key={one.ball} className="flex flex-wrap items-center gap-1">
                  {at + 1}. {one.ball}
                  <Pick
                    label={`Pocket for the ${ballName(one.ball)}`}
                    empty="any pocket"
                    value={one.pocket ?? ""}
                    options={POCKETS.map(({ name }) => [name, pocketWords(name, game.header.discipline)])}
                    onChange={(pocket) => {
                      set({ order: changed(draft.order, at, { pocket: (pocket || null) as Pocket | null }) });
                    }}
                  />
                  <Pick
                    label={`Side for the ${ballName(one.ball)}`}
                    empty="any side"
                    value={one.side ?? ""}
                    options={SIDES.map((side) => [side, side])}
                    onChange={(side) => {
                      set({ order: changed(draft.order, at, { side: side || null }) });
                    }}
                  />
                  <Pick
                    label={`Speed for the ${ballName(one.ball)}`}
                    empty="any speed"
                    value={one.speed ?? ""}
                    options={PACES.map((pace) => [pace, pace])}
                    onChange={(speed) => {
                      set({ order: changed(draft.order, at, { speed: speed || null }) });
                    }}
                  />
                  {one.zone && (
                    <button
                      type="button"
                      className="chip"
                      aria-label={`Remove the zone for the ${ballName(one.ball)}`}
                      onClick={() => {
                        set({ order: changed(draft.order, at, { zone: null }) });
                      }}
                    >
                      zone ×
                    </button>
                  )}
                </li>
              ))}
            </ol>
          )}
          <Line
            label="In words"
            value={draft.words}
            onChange={(words) => {
              set({ words });
            }}
          />{" "}
          {/* prettier-ignore */}
          <Line label="Why another than before" value={draft.reason} onChange={(reason) => { set({ reason }); }} />{" "}
          {/* prettier-ignore */}
          <Line label="Felt chance to run out, %" value={draft.felt} numeric onChange={(felt) => { set({ felt }); }} />{" "}
          {/* prettier-ignore */}
          <button className="btn btn-sm" disabled={draft.order.length === 0 && draft.words === ""}>
            Keep the plan
          </button>
        </form>
      )}
    </section>
  );
}

const inShort = (one: NonNullable<WrittenOrder["order"]>[number]) =>
  `${one.ball}${one.zone ? " (zone)" : ""}`;

const SIDES = ["left", "no side", "right"];
const PACES = ["soft", "medium", "firm"];

const changed = (order: Draft["order"], at: number, patch: Partial<Draft["order"][number]>) =>
  order.map((one, index) => (index === at ? { ...one, ...patch } : one));

function Pick(props: {
  label: string;
  empty: string;
  value: string;
  options: string[][];
  onChange: (value: string) => void;
}) {
  return (
    <select
      aria-label={props.label}
      className="select select-xs w-auto"
      value={props.value}
      onChange={(event) => {
        props.onChange(event.target.value);
      }}
    >
      <option value="">{props.empty}</option>
      {props.options.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}

function Line(props: { label: string; value: string; numeric?: boolean; onChange: (value: string) => void }) {
  return (
    <label className="flex flex-wrap items-center gap-2">
      {props.label}
      <input
        className={`input input-xs ${props.numeric ? "w-20" : "min-w-40 flex-1"}`}
        inputMode={props.numeric ? "numeric" : undefined}
        maxLength={1000}
        value={props.value}
        onChange={(event) => {
          props.onChange(event.target.value);
        }}
      />
    </label>
  );
}

const fromWords = (from: number | null | undefined) => (from ? `from shot ${from + 1} on` : "from the start");
