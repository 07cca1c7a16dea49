/** How fast this recording's cloth and rails are, told from the balls' ways, and taken for the match. */
import { useTableTold } from "../../../api/readings";
import type { Game, TableTold as Told } from "../../../api/types";
import { KeyChip as Do } from "../../../parts/Chips";
import type { Actions } from "../actions";
import { say } from "../model/state";
import type { Workbench } from "../model/useWorkbench";

const GRAVITY = 9.81; // m/s²

/** How far a ball rolls that sets out at one metre a second. */
const rolls = (friction: number) => (1 / (2 * friction * GRAVITY)).toFixed(1);
const percent = (share: number) => String(Math.round(100 * share));

function words({ roll_friction: cloth, rail_restitution: rail, stretches, metres }: Told) {
  return (
    `At 1 m/s a ball rolls ${rolls(cloth.value)} m (${rolls(cloth.high)} to ${rolls(cloth.low)}; such tables ` +
    `usually ${rolls(cloth.usual)}). A rail gives back ${percent(rail.value)} % of the speed (${percent(rail.low)} ` +
    `to ${percent(rail.high)}; usually ${percent(rail.usual)}). From ${String(stretches)} runs of ` +
    `${metres.toFixed(1)} m in all; 95 % intervals.`
  );
}

export function TableTold({ bench, actions }: { bench: Pick<Workbench, "game">; actions: Actions }) {
  const told = useTableTold(bench.game.id);
  return (
    <div className={`flex flex-wrap items-center gap-1 ${told.data ? "basis-full" : ""}`}>
      <Do
        name={told.isPending ? "telling …" : "how fast is this table?"}
        off={told.isPending}
        onClick={() => {
          told.mutate(undefined, {
            onError: (problem) => {
              say(problem.message);
            },
          });
        }}
      />
      {told.data && (
        <>
          <span className="text-[13px]" data-testid="table-told">
            {words(told.data)}
          </span>
          <Do
            name="play this match on it"
            onClick={() => {
              actions.useTable(told.data.table as Game["header"]["table"]);
            }}
          />
        </>
      )}
    </div>
  );
}
