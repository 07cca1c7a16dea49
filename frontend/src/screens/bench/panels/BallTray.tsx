/** The balls that have no place on the plan: those still to be placed, and apart from them those that fell. */
import type { Places } from "../../../api/types";
import { sortOf } from "../../../games/discipline";
import type { Entry } from "../model/entry";

interface Props {
  all: string[];
  entry: Entry;
  balls: Places;
  placing: string | null;
  onPick: (ball: string) => void;
}

export function BallTray({ all, entry, balls, placing, onPick }: Props) {
  const missing = all.filter((ball) => !balls[ball]);
  const standing = missing.filter((ball) => ball === "cue" || entry.standing.includes(ball));
  const fallen = missing.filter((ball) => !standing.includes(ball));
  return (
    <div className="flex min-h-8 flex-wrap items-center gap-1 px-2 py-1">
      <Group title="to place" balls={standing} placing={placing} onPick={onPick} />
      <Group title="off the table" balls={fallen} placing={placing} onPick={onPick} />
      {missing.length === 0 && <span className="caption">every ball is placed</span>}
    </div>
  );
}

/** Like balls are one chip that counts; it gives out the first of them. */
function Group({
  title,
  balls,
  placing,
  onPick,
}: { title: string; balls: string[] } & Pick<Props, "placing" | "onPick">) {
  if (!balls.length) return null;
  const sorts = [...new Set(balls.map(sortOf))];
  return (
    <>
      <span className="caption mr-1">{title}</span>
      {sorts.map((sort) => {
        const like = balls.filter((ball) => sortOf(ball) === sort);
        const first = like[0] ?? sort;
        return (
          <button
            key={sort}
            className="chip"
            aria-pressed={placing !== null && like.includes(placing)}
            onClick={() => {
              onPick(first);
            }}
          >
            {sort}
            {like.length > 1 && ` × ${like.length}`}
          </button>
        );
      })}
    </>
  );
}
