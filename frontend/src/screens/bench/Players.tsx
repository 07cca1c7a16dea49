/** Who is at the table: the two sides, of partners each person, alone only the one. */
import type { Game, ShotDocument } from "../../api/types";
import { Chip } from "../../parts/Chips";
import type { Entry } from "./entry";

interface Props {
  game: Game;
  entry: Entry;
  onChange: (patch: Partial<ShotDocument>, label: string) => void;
}

type People = Record<string, { name?: string; partner?: string } | undefined>;

export function Players({ game, entry, onChange }: Props) {
  const { document, shot } = entry;
  const people = (game.header.players ?? {}) as People;
  const sides = game.header.session === "solo" ? (["A"] as const) : (["A", "B"] as const);
  return sides.flatMap((side) => {
    const names = [people[side]?.name ?? side, people[side]?.partner].filter((name) => name !== undefined);
    const due = shot ? shot.person : game.next_person[side];
    return names.map((name, index) => {
      const seat = index === 0 ? ("name" as const) : ("partner" as const);
      const plays = names.length === 1 || (document.by ? document.by === seat : due === name);
      return (
        <Chip
          key={`${side}-${seat}`}
          on={document.player === side && plays}
          onClick={() => {
            onChange(names.length === 1 ? { player: side } : { player: side, by: seat }, "player");
          }}
        >
          {name}
        </Chip>
      );
    });
  });
}
