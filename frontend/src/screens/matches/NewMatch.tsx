/** A new match: who plays what by which rules, and how far it already is when the recording begins. */
import { useQueryClient } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { useNavigate } from "react-router";

import { answered, api } from "../../api/client";
import { useDisciplines } from "../../api/queries";
import type { DisciplineRules, Game, Header } from "../../api/types";
import { DISCIPLINES, disciplineOf } from "../../games/discipline";
import { Dialog } from "../../parts/Dialog";
import { Problem } from "../../parts/Problem";
import { Conditions, conditionsFrom } from "./Conditions";
import { ALONE, Pick, SEATS, Text, Whole, oneOf } from "./Fields";
import { trade } from "../../trade";
import { Rules, chosenRules } from "./Rules";
import { Start, startState } from "./Start";

type Session = (typeof trade.sessions)[number][0];

export function NewMatch({ onClose }: { onClose: () => void }) {
  const disciplines = useDisciplines();
  const [game, setGame] = useState<string>(disciplineOf("").name);
  const rules = disciplines.data?.disciplines.find((one) => one.name === game);
  return (
    <Dialog title="New match" onClose={onClose} wide>
      <Problem of={disciplines.error} />
      {rules && <MatchForm rules={rules} onGame={setGame} />}
    </Dialog>
  );
}

function MatchForm({ rules, onGame }: { rules: DisciplineRules; onGame: (name: string) => void }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [problem, setProblem] = useState<unknown>(null);
  const [late, setLate] = useState(false);
  const [session, setSession] = useState<Session>("match");
  const discipline = disciplineOf(rules.name);
  const alone = ALONE.includes(session);

  const begin = async (form: FormData) => {
    const text = (name: string) => String(form.get(name) ?? "").trim();
    const id = crypto.randomUUID();
    try {
      const document = headerFrom(text, rules, session, late);
      await answered<Game>(api.POST("/api/games", { body: { id, document } }));
      await queries.invalidateQueries({ queryKey: ["games"] });
      await navigate(`/match/${id}`);
    } catch (failure) {
      setProblem(failure);
    }
  };

  return (
    <form
      className="grid grid-cols-2 gap-3 sm:grid-cols-3"
      onSubmit={(event) => {
        event.preventDefault();
        void begin(new FormData(event.currentTarget));
      }}
    >
      <Text name="title" label="Title" />
      <Pick
        name="discipline"
        label="Game"
        value={rules.name}
        options={DISCIPLINES.map((one) => [one.name, one.title] as const)}
        onChange={onGame}
      />
      <Pick
        name="session"
        label="Session"
        value={session}
        options={trade.sessions}
        onChange={(value) => {
          setSession(value);
        }}
      />
      <label className="flex flex-col gap-1">
        <span className="caption">Day</span>
        <input name="date" type="date" defaultValue={today()} className="input input-sm w-full" />
      </label>
      <Text name="place" label="Place" className="sm:col-span-2" />
      <Text name="A" label={alone ? "Player" : "Player A"} required />
      {!alone && <Text name="B" label="Player B" required />}
      {session === "partners" && (
        <>
          <span />
          <Text name="A_partner" label="Partner of A" required />
          <Text name="B_partner" label="Partner of B" required />
        </>
      )}
      <Fragment key={rules.name}>
        <Pick
          name="table"
          label="Table"
          options={trade.tables.filter(([table]) => rules.tables.includes(table))}
        />
        <Whole
          name="race_to"
          label={`To how many ${discipline.race}`}
          value={discipline.usual_race}
          least={1}
          most={10000}
        />
        <Pick
          name="breaker"
          label="First break"
          options={[
            ["A", "player A"],
            ["B", "player B"],
          ]}
        />
        <Rules rules={rules} />
      </Fragment>
      <label className="col-span-full flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={late}
          onChange={(event) => {
            setLate(event.target.checked);
          }}
        />
        The recording begins later, in mid-match or mid-{discipline.rack}
      </label>
      {late && <Start key={rules.name} discipline={discipline} />}
      <details className="col-span-full">
        <summary className="cursor-pointer">Conditions: table, hands, what the house allows</summary>
        <div className="mt-2 grid">
          <Conditions header={NOTHING} names={alone ? ALONE_NAMES : BOTH_NAMES} />
        </div>
      </details>
      <div className="col-span-full space-y-2">
        <Problem of={problem} />
        <button className="btn btn-primary btn-sm">Begin</button>
      </div>
    </form>
  );
}

const NOTHING: Partial<Header> = {};
const ALONE_NAMES = { A: "" };
const BOTH_NAMES = { A: "", B: "" };

/** As the clock on this desk has it. */
function today(): string {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
}

function headerFrom(
  text: (name: string) => string,
  rules: DisciplineRules,
  session: Session,
  late: boolean,
): Header {
  const alone = ALONE.includes(session);
  const first = text("A");
  const second = text("B");
  const partner = (name: string) => (session === "partners" ? { partner: text(name) } : {});
  const conditions = conditionsFrom(text, {});
  return {
    format: "aretane-match",
    ...(text("date") ? { date: text("date") } : {}),
    ...(text("place") ? { place: text("place") } : {}),
    ...(Object.keys(conditions).length ? { conditions } : {}),
    version: 1,
    title: text("title") || (alone ? first : `${first} – ${second}`),
    discipline: disciplineOf(rules.name).name,
    rules: chosenRules(rules, text),
    table: trade.tables.find(([table]) => table === text("table"))?.[0],
    race_to: session === "solo" ? null : Number(text("race_to")) || null,
    session,
    players: {
      A: { name: first, ...partner("A_partner") },
      ...(alone ? {} : { B: { name: second, ...partner("B_partner") } }),
    },
    start: late ? startState(disciplineOf(rules.name), text) : { breaker: oneOf(SEATS, text("breaker")) },
  };
}
