/** What is known of a match beside its shots: title, day, place, players, the race, conditions; all of it can be put
 * right later. */
import { useGame, useChange } from "../../api/queries";
import type { Game, Header } from "../../api/types";
import { disciplineOf } from "../../games/discipline";
import { Dialog } from "../../parts/Dialog";
import { Problem } from "../../parts/Problem";
import { headerChange } from "../bench/model/changes";
import { Conditions, conditionsFrom, toldIn } from "./Conditions";
import { ALONE, SEATS, Text, Whole } from "./Fields";

/** By its id, where it is not open. */
export function AboutMatch({ id, onClose }: { id: string; onClose: () => void }) {
  const query = useGame(id);
  return (
    <Dialog title="About this match" onClose={onClose} wide>
      <Problem of={query.error} />
      {query.data ? <About game={query.data} onClose={onClose} /> : !query.error && <p>Opening …</p>}
    </Dialog>
  );
}

function About({ game, onClose }: { game: Game; onClose: () => void }) {
  const change = useChange(game);
  const { header } = game;
  const seats = ALONE.includes(header.session ?? "match") ? (["A"] as const) : SEATS;
  const names = Object.fromEntries(seats.map((seat) => [seat, header.players?.[seat]?.name ?? ""]));
  const { race } = disciplineOf(header.discipline);
  const write = (form: FormData) => {
    const text = (name: string) => String(form.get(name) ?? "").trim();
    change("about the match", [headerChange(game, headerWith(header, text, seats))]);
    onClose();
  };
  return (
    <form
      className="grid grid-cols-2 gap-3 sm:grid-cols-3"
      onSubmit={(event) => {
        event.preventDefault();
        write(new FormData(event.currentTarget));
      }}
    >
      <Text name="title" label="Title" value={header.title ?? ""} className="col-span-full" />
      <label className="flex flex-col gap-1">
        <span className="caption">Day</span>
        <input
          name="date"
          type="date"
          className="input input-sm w-full"
          defaultValue={(header.date ?? "").slice(0, 10)}
        />
      </label>
      <Text name="place" label="Place" value={header.place ?? ""} />
      {header.session !== "solo" && (
        <Whole
          name="race_to"
          label={`To how many ${race}`}
          value={header.race_to ?? ""}
          least={1}
          most={10000}
        />
      )}
      {seats.map((seat) => (
        <Text key={seat} name={seat} label={`Player ${seat}`} value={names[seat] ?? ""} required />
      ))}
      {header.session === "partners" &&
        seats.map((seat) => (
          <Text
            key={`${seat}_partner`}
            name={`${seat}_partner`}
            label={`Partner of ${seat}`}
            value={header.players?.[seat]?.partner ?? ""}
            required
          />
        ))}
      <Conditions header={header} names={names} />
      <div className="col-span-full">
        <button className="btn btn-primary btn-sm">Write it down</button>
      </div>
    </form>
  );
}

function headerWith(
  header: Header,
  text: (name: string) => string,
  seats: readonly ("A" | "B")[],
): Partial<Header> {
  const players = { ...header.players };
  for (const seat of seats) {
    const partner = text(`${seat}_partner`);
    players[seat] = { ...players[seat], name: text(seat), ...(partner ? { partner } : {}) };
  }
  const conditions = conditionsFrom(text, toldIn(header));
  return {
    title: text("title"),
    date: text("date") || undefined,
    place: text("place") || undefined,
    race_to: header.session === "solo" ? header.race_to : Number(text("race_to")) || null,
    players,
    conditions: Object.keys(conditions).length ? conditions : undefined,
  };
}
