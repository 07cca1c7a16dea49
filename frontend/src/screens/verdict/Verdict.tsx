/** The verdict on a match: its racks as lines, what won and lost them, and the moments that mattered. */
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { useJudgeAnew, useLedger, type Care } from "../../api/ledger";
import { useChange, useGame } from "../../api/queries";
import type { Game, Ledger, LedgerAnswer, LedgerRack } from "../../api/types";
import { useAddress } from "../../parts/address";
import { Chip, Choice } from "../../parts/Chips";
import { More } from "../../parts/More";
import { Problem } from "../../parts/Problem";
import { disciplineOf } from "../../games/discipline";
import { percent } from "../../words";
import { named } from "../bench/panels/Board";
import { MatchCard } from "./MatchCard";
import { MomentCard } from "./MomentCard";
import { Picked } from "./Picked";
import { RackLine } from "./RackLine";
import { Sums } from "./Sums";
import { amount, momentsOf, WHATS, type Moment, type Wanted, type What } from "./model";

const PAGE = 12;

export function Verdict() {
  const { id = "" } = useParams();
  const query = useGame(id);
  if (query.data) return <Opened game={query.data} />;
  return <div className="p-6">{query.error ? <Problem of={query.error} /> : "Opening the match …"}</div>;
}

function Opened({ game }: { game: Game }) {
  const [params, set] = useAddress({ replace: true });
  const care: Care = params.get("care") === "settled" ? "settled" : "coarse";
  const query = useLedger(game, care, true);
  const anew = useJudgeAnew(game, care);
  const told = query.data;
  const ledger = told?.body;
  return (
    <div className="mx-auto w-full max-w-6xl space-y-6 p-5">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="text-2xl">Verdict</h1>
        <Link className="underline" to={`/match/${game.id}`} dir="auto">
          {String(game.header.title ?? "the match")}
        </Link>
        <span className="ml-auto flex flex-wrap gap-1">
          {told?.current &&
            care === "coarse" &&
            (["A", "B"] as const).map((seat) =>
              ledger?.players?.[seat]?.shots ? (
                <a
                  key={seat}
                  className="chip"
                  href={`/api/games/${game.id}/report/pdf?player=${encodeURIComponent(named(game, seat))}`}
                  target="_blank"
                  rel="noreferrer"
                >
                  report for {named(game, seat)}
                </a>
              ) : null,
            )}
          <Chip
            on={care === "settled"}
            onClick={() => {
              set({ care: care === "settled" ? null : "settled" });
            }}
          >
            look closer
          </Chip>
          <Chip
            onClick={() => {
              anew.mutate();
            }}
          >
            judge anew
          </Chip>
        </span>
      </div>
      <Problem of={query.error ?? anew.error} />
      {told && <Progress told={told} game={game} />}
      {ledger?.racks?.length ? (
        <>
          <Said ledger={ledger} />
          <Racks
            game={game}
            ledger={ledger}
            onMoment={(shot) => {
              set({ moment: shot });
            }}
          />
          <Sums game={game} ledger={ledger} />
          <MatchCard game={game} />
          <Moments game={game} ledger={ledger} params={params} set={set} />
          <HowToRead ledger={ledger} />
        </>
      ) : (
        <MatchCard game={game} />
      )}
    </div>
  );
}

function Progress({ told, game }: { told: LedgerAnswer; game: Game }) {
  if (told.state === "failed" && told.said) return <Problem of={new Error(told.said)} />;
  if (told.state !== "running") return null;
  const racks = told.body.racks?.length ?? 0;
  const shown =
    racks < game.racks.length
      ? ` ${racks} of ${game.racks.length} are shown.`
      : " What is shown is from before the last change.";
  return (
    <p role="status" data-testid="judging" className="flex flex-wrap items-center gap-3">
      <progress className="progress w-48" value={told.progress} max={1} />
      {told.place
        ? `${told.place.before} other works come first.`
        : `Judging shot after shot: ${percent(told.progress)}.`}
      {racks > 0 && shown} You can go on; it is worked out in the background.
    </p>
  );
}

function Said({ ledger }: { ledger: Ledger }) {
  return (
    <div className="space-y-1 font-serif text-[17px]" data-testid="said">
      {Object.values(ledger.said ?? {}).map((one) => (
        <p key={one} dir="auto">
          {one}
        </p>
      ))}
    </div>
  );
}

function Racks({ game, ledger, onMoment }: { game: Game; ledger: Ledger; onMoment: (shot: string) => void }) {
  const { rack: word } = disciplineOf(game.header.discipline);
  return (
    <section aria-label="Racks">
      <h2 className="mb-1 text-lg">
        {ledger.unit === "balls" ? "How far ahead" : "Chance to win"}: {named(game, "A")} above the middle
      </h2>
      <div className="grid grid-cols-1 gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-3">
        {ledger.racks?.map((rack, number) => {
          const turn = rack.turning_point === null ? undefined : rack.shots[rack.turning_point];
          const words = turn
            ? `turned at shot ${(rack.turning_point ?? 0) + 1} by ${named(game, turn.player)}: ${amount(turn.after - turn.before, ledger.unit)}`
            : rack.result === null
              ? "not over"
              : "";
          return (
            <div key={number} data-rack={number}>
              <p className="flex flex-wrap gap-x-2 text-[12px]">
                <b>
                  {word} {number + 1}
                </b>
                {winnerOf(game, number)}
                <span className="opacity-75">{words}</span>
              </p>
              {rack.plans.map((plan, at) => (
                <p key={at} className="text-[12px]" data-testid="followed">
                  <span dir="auto">{plan.by || "A plan"}</span>: {plan.order.join(" – ")}
                  <span className="opacity-75">, {heldWords(plan, ledger.unit)}</span>
                </p>
              ))}
              <RackLine
                rack={rack}
                unit={ledger.unit}
                words={`${word} ${number + 1}, ${words}`}
                onEntry={(index) => {
                  const shot = rack.shots[index]?.id;
                  if (shot) onMoment(shot);
                }}
              />
            </div>
          );
        })}
      </div>
    </section>
  );
}

/** How long a written plan held, what that cost, and where another order was better. */
function heldWords(plan: LedgerRack["plans"][number], unit: Ledger["unit"]): string {
  const better = plan.better.map(
    (one) => `the ${one.ball} was better at shot ${one.at + 1} (${amount(one.cost, unit)})`,
  );
  const holding = plan.holding === null ? [] : [`keeping to it ${amount(-plan.holding, unit)}`];
  return [endWords(plan, unit), ...holding, ...better].join("; ");
}

function endWords(plan: LedgerRack["plans"][number], unit: Ledger["unit"]): string {
  if (plan.left_at !== null) {
    const cost = plan.cost === null ? "" : `: ${amount(-plan.cost, unit)}`;
    return `left at shot ${plan.left_at + 1} for the ${plan.left_for ?? ""}${cost}`;
  }
  if (plan.replaced !== null) return `another from shot ${plan.replaced + 1} on`;
  return plan.kept === plan.order.length ? "played so" : `held for ${plan.kept} of ${plan.order.length}`;
}

const winnerOf = (game: Game, rack: number): string => {
  const winner = game.racks[rack]?.winner;
  return winner ? `${named(game, winner)} won` : "";
};

interface MomentsProps {
  game: Game;
  ledger: Ledger;
  params: URLSearchParams;
  set: (patch: Record<string, string | null>) => void;
}

function Moments({ game, ledger, params, set }: MomentsProps) {
  const navigate = useNavigate();
  const change = useChange(game);
  const list = useRef<HTMLDivElement>(null);
  const [picked, setPicked] = useState<string[]>([]);
  const wanted: Wanted = {
    player: params.get("player") === "A" ? "A" : params.get("player") === "B" ? "B" : null,
    what: WHATS.find((one) => one === params.get("what")) ?? "all",
    dear: params.get("dear") === "1",
    unsure: params.get("unsure") === "1",
  };
  const found = momentsOf(game, ledger, wanted);
  const shown = Math.max(PAGE, Number(params.get("shown")) || 0);
  const moments = withChosen(game, ledger, found, params.get("moment")).slice(0, shown);
  const at = Math.max(
    0,
    moments.findIndex((one) => one.shot.id === params.get("moment")),
  );
  const chosen = moments[at];

  const choose = (moment: Moment | undefined) => {
    if (moment) set({ moment: moment.shot.id });
  };
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (event.target instanceof HTMLElement && event.target.closest("input, select, textarea, button, a"))
      return;
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      choose(moments[at + (event.key === "ArrowDown" ? 1 : -1)]);
    }
    if (event.key === "Enter" && chosen)
      void navigate(`/match/${game.id}?shot=${chosen.shot.id}&from=verdict`);
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      onKey(event);
    };
    document.addEventListener("keydown", listen);
    return () => {
      document.removeEventListener("keydown", listen);
    };
  }, []);
  const wantedMoment = params.get("moment");
  useEffect(() => {
    if (wantedMoment)
      list.current?.querySelector(`[data-moment="${wantedMoment}"]`)?.scrollIntoView({ block: "nearest" });
  }, [wantedMoment]);

  return (
    <section aria-label="Moments" ref={list}>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-1">
        <h2 className="text-lg">The moments that mattered</h2>
        <span className="caption">dearest first; ↑ ↓ from one to the next, ↵ to the recording</span>
        <span className="ml-auto flex flex-wrap gap-1">
          {(["A", "B"] as const).map((seat) => (
            <Chip
              key={seat}
              on={wanted.player === seat}
              onClick={() => {
                set({ player: wanted.player === seat ? null : seat, moment: null });
              }}
            >
              {named(game, seat)}
            </Chip>
          ))}
          <Choice<What>
            label="What is looked for"
            value={wanted.what}
            options={WHATS}
            onChange={(what) => {
              set({ what: what === "all" ? null : what, moment: null });
            }}
          />
          <Chip
            on={wanted.dear}
            onClick={() => {
              set({ dear: wanted.dear ? null : "1", moment: null });
            }}
          >
            {ledger.unit === "balls" ? "more than half a ball" : "more than five points"}
          </Chip>
          <Chip
            on={wanted.unsure}
            onClick={() => {
              set({ unsure: wanted.unsure ? null : "1" });
            }}
          >
            also what may be chance
          </Chip>
        </span>
      </div>
      {moments.map((moment) => (
        <MomentCard
          key={moment.shot.id}
          game={game}
          unit={ledger.unit}
          moment={moment}
          chosen={moment === chosen}
          onChoose={() => {
            choose(moment);
          }}
          picked={picked.includes(moment.shot.id)}
          onPick={() => {
            const { id } = moment.shot;
            setPicked(picked.includes(id) ? picked.filter((one) => one !== id) : [...picked, id]);
          }}
          onNod={(cause, began) => {
            change("cause from the verdict", [nodded(game, moment, cause, began)]);
          }}
        />
      ))}
      <Picked
        game={game}
        moments={picked.flatMap((id) => withChosen(game, ledger, [], id))}
        onChange={setPicked}
      />
      {moments.length === 0 && <p>Nothing of this kind cost anything.</p>}
      <More
        shown={moments.length}
        n={found.length}
        more={
          found.length > shown
            ? () => {
                set({ shown: String(shown + PAGE) });
              }
            : null
        }
      />
    </section>
  );
}

/** The moments with the one that is gone to, though it cost nothing. */
function withChosen(game: Game, ledger: Ledger, found: Moment[], wanted: string | null): Moment[] {
  if (!wanted || found.some((one) => one.shot.id === wanted)) return found;
  const every = (ledger.racks ?? []).flatMap((rack, number) =>
    rack.shots.map((entry, index): Moment | null => {
      const shot = game.racks[number]?.shots.find((one) => one.id === entry.id);
      const cost = entry.before - entry.after;
      return shot && entry.id === wanted
        ? { rack: number, index, entry, shot, cost, error: 0, turning: index === rack.turning_point }
        : null;
    }),
  );
  const one = every.find((moment) => moment !== null);
  return one ? [one, ...found] : found;
}

/** The shot with a cause that the coach nodded at, and where its trouble began. */
function nodded(game: Game, { shot, rack, index }: Moment, cause: string, began: number | null) {
  const start = began === null ? undefined : game.racks[rack]?.shots[began];
  const document = { ...shot.document, causes: [...(shot.document.causes ?? []), cause] };
  return {
    kind: "shot" as const,
    id: shot.id,
    parent: game.racks[rack]?.id ?? "",
    seat: shot.seat,
    document: start && began !== index ? { ...document, began_at: start.id } : document,
  };
}

function HowToRead({ ledger }: { ledger: Ledger }) {
  const balls = ledger.unit === "balls";
  return (
    <p className="max-w-3xl text-[12px] opacity-80">
      Before each shot the best option is worth so much to win the rack
      {balls ? " (here: balls ahead in the end)" : ""}. Decision: what was meant against that. Potting: made,
      missed or foul against what this hand makes on average. Position: where the cue ball stopped against
      where it stops on average. Luck: what the other balls did beyond that.{" "}
      {balls && "What balls that are driven loose will bring is estimated roughly here. "}± is a 95 %
      interval; what is smaller than it is no error. Hands:{" "}
      {Object.entries(ledger.hands ?? {})
        .map(
          ([seat, hand]) =>
            `${seat} ${[hand, hand.partner]
              .map((one) => one && `${one.aim_deg.toFixed(2)}°`)
              .filter(Boolean)
              .join(" and ")}`,
        )
        .join(", ")}
      .
    </p>
  );
}
