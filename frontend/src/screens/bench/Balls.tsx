/** Which balls fell: a chip a ball, and for like balls one chip that counts. */
import type { Game, ShotDocument } from "../../api/types";
import { disciplineOf, ofSort, sortOf } from "../../games/discipline";
import { Chip, Line } from "../../parts/Chips";
import type { Entry } from "./entry";

interface Props {
  game: Game;
  entry: Entry;
  onChange: (patch: Partial<ShotDocument>) => void;
}

export function Fell({ game, entry, onChange }: Props) {
  const { document } = entry;
  const { sorts } = disciplineOf(game.header.discipline);
  const potted = (document.potted ?? []).map((one) => one.ball);
  const balls = [...new Set([...entry.standing, ...potted])];
  const single = balls.filter((ball) => !sorts.some((sort) => sort === sortOf(ball)));
  return (
    <Line name="Fell">
      {sorts.map((sort) => (
        <Counted
          key={sort}
          sort={sort}
          fallen={ofSort(potted, sort)}
          left={ofSort(balls, sort).filter((ball) => !potted.includes(ball))}
          onFall={(ball, fell) => {
            onChange(withFallen(document, ball, fell));
          }}
        />
      ))}
      {single.map((ball) => (
        <Chip
          key={ball}
          on={potted.includes(ball)}
          name={`fell ${ball}`}
          onClick={() => {
            onChange(withFallen(document, ball, !potted.includes(ball)));
          }}
        >
          {ball}
        </Chip>
      ))}
    </Line>
  );
}

/** Like balls: each press lets one more fall, the small minus takes one back. */
function Counted({
  sort,
  fallen,
  left,
  onFall,
}: {
  sort: string;
  fallen: string[];
  left: string[];
  onFall: (ball: string, fell: boolean) => void;
}) {
  const [next] = left;
  const last = fallen[fallen.length - 1];
  return (
    <>
      <Chip
        on={fallen.length > 0}
        name={`fell ${sort}`}
        onClick={() => {
          if (next) onFall(next, true);
        }}
      >
        {sort}
        {fallen.length > 0 && ` × ${fallen.length}`}
      </Chip>
      {last && (
        <Chip
          name={`one ${sort} fewer`}
          onClick={() => {
            onFall(last, false);
          }}
        >
          −
        </Chip>
      )}
    </>
  );
}

/** The entry with a ball fallen or not; its layout after the shot follows. */
function withFallen(document: ShotDocument, ball: string, fell: boolean): Partial<ShotDocument> {
  const others = (document.potted ?? []).filter((one) => one.ball !== ball);
  const potted = fell ? [...others, { ball, pocket: null }] : others;
  const after = document.layout_after?.balls;
  if (!fell || !after) return { potted };
  const balls = Object.fromEntries(Object.entries(after).filter(([name]) => name !== ball));
  return { potted, layout_after: { ...document.layout_after, balls } };
}
