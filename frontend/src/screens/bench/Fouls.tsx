/** What was against the rules, as far as it was seen; the penalty is the referee's business. */
import type { Game, ShotDocument } from "../../api/types";
import { disciplineOf, ofSort, sortOf } from "../../games/discipline";
import { Chip, Choice, Line } from "../../parts/Chips";
import { hasFoul, withFoul, type Entry } from "./entry";

const AS_MEANT = "hit first: as meant";
const NOTHING = "hit first: nothing";
const PUT_BACK = "put-back";

interface Props {
  game: Game;
  entry: Entry;
  onScratch: () => void;
  onChange: (patch: Partial<ShotDocument>, label: string) => void;
}

export function Fouls({ game, entry, onScratch, onChange }: Props) {
  const { document } = entry;
  const { scratch, fouls } = disciplineOf(game.header.discipline);
  const opens = document.kind === "break";
  const offered = fouls.filter((foul) => opens || !["illegal-break", "breaking-foul"].includes(foul));
  const flags = document.flags ?? [];
  return (
    <Line name="Fouls">
      <Chip on={Boolean(document.scratch)} hint="c" onClick={onScratch}>
        ⊗ {scratch}
      </Chip>
      <FirstHit entry={entry} onChange={onChange} />
      {offered.map((foul) => (
        <Chip
          key={foul}
          on={hasFoul(document, foul)}
          onClick={() => {
            onChange(withFoul(document, foul, entry.legal), foul);
          }}
        >
          {foul.replaceAll("-", " ")}
        </Chip>
      ))}
      <Chip
        on={flags.includes(PUT_BACK)}
        onClick={() => {
          const others = flags.filter((flag) => flag !== PUT_BACK);
          onChange({ flags: flags.includes(PUT_BACK) ? others : [...others, PUT_BACK] }, "balls put back");
        }}
      >
        balls put back
      </Chip>
    </Line>
  );
}

/** The ball that was struck first; like balls are one choice. */
function FirstHit({ entry, onChange }: Pick<Props, "entry" | "onChange">) {
  const first = entry.document.first_contact;
  const sorts = [...new Set(entry.standing.map(sortOf))];
  const value = first === undefined ? AS_MEANT : first === null ? NOTHING : `hit first: ${sortOf(first)}`;
  return (
    <Choice
      label="Hit first"
      value={value}
      options={[...new Set([AS_MEANT, NOTHING, ...sorts.map((sort) => `hit first: ${sort}`), value])]}
      onChange={(chosen) => {
        const sort = chosen.replace("hit first: ", "");
        const legal = ofSort(entry.legal, sort)[0] ?? ofSort(entry.standing, sort)[0];
        const contact = chosen === AS_MEANT ? undefined : chosen === NOTHING ? null : legal;
        onChange({ first_contact: contact }, "ball hit first");
      }}
    />
  );
}
