/** A shot as a question: the table stands still, each says what to play, then everything appears together. */
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";

import { useGuess, useRiddle } from "../../api/riddles";
import type { Guess, Place, Riddle } from "../../api/types";
import { Chip } from "../../parts/Chips";
import { Problem } from "../../parts/Problem";
import { TableDrawing } from "../../table/TableDrawing";
import { ballName } from "../../table/balls";
import { ring, type Shape } from "../../table/shapes";
import { percent, pocketWords } from "../../words";

const REACH = 0.12; // metres round a pocket's mouth that mean the pocket
const SPOT = 0.03; // metres: how large a marked place is drawn
const NOTHING: Omit<Guess, "name"> = { ball: null, pocket: null, intent: "attack", place: null, felt: null };

export function RiddlePage() {
  const { id = "" } = useParams();
  const [shown, setShown] = useState(false);
  const { data, error } = useRiddle(id, shown);
  return (
    <div className="mx-auto w-full max-w-4xl space-y-4 p-5">
      <Problem of={error} />
      {data && <Asked riddle={data} shown={shown} onShow={setShown} />}
    </div>
  );
}

interface AskedProps {
  riddle: Riddle;
  shown: boolean;
  onShow: (shown: boolean) => void;
}

function Asked({ riddle, shown, onShow }: AskedProps) {
  const [guess, setGuess] = useState(NOTHING);
  const told = shown ? riddle.shown : null;
  const point = (place: Place) => {
    if (told) return;
    const near = riddle.table.pockets.find(
      (one) => Math.hypot(one.mouth[0] - place[0], one.mouth[1] - place[1]) < REACH,
    );
    const patch = near ? { pocket: near.name as Guess["pocket"] } : { place };
    setGuess((old) => ({ ...old, ...patch }));
  };
  return (
    <>
      <h1 className="text-2xl">What would you play?</h1>
      <p>{riddle.player} is at the table. Press the ball and the pocket, and where the white should stop.</p>
      {riddle.film && <Still film={riddle.film} shown={told !== null} />}
      <div className="sheet">
        <TableDrawing
          table={riddle.table}
          balls={riddle.balls}
          shapes={told ? shapesOf(told) : guess.place ? [spot(guess.place, "ideal")] : []}
          chosen={told ? null : guess.ball}
          label="The table before the shot"
          onPoint={point}
          onBall={(ball) => {
            if (ball !== "cue" && !told) setGuess((old) => ({ ...old, ball }));
          }}
        />
      </div>
      {!told && <GuessForm riddle={riddle} guess={guess} onGuess={setGuess} />}
      <p className="flex flex-wrap items-baseline gap-3">
        <span role="status" data-testid="answered">
          {riddle.n === 0 ? "nobody has answered yet" : `${riddle.n} answered`}
        </span>
        <button
          className="chip"
          disabled={riddle.n === 0}
          aria-pressed={shown}
          onClick={() => {
            onShow(!shown);
          }}
        >
          {shown ? "hide it again" : "show all answers"}
        </button>
      </p>
      {told && <Shown told={told} />}
    </>
  );
}

/** The recording stands still; what comes can be played once all is shown. */
function Still({ film, shown }: { film: NonNullable<Riddle["film"]>; shown: boolean }) {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    if (!shown && video.current) {
      video.current.pause();
      video.current.currentTime = film.still;
    }
  }, [film.still, shown]);
  return (
    <video
      ref={video}
      className="w-full max-w-2xl"
      muted
      playsInline
      preload="auto"
      controls={shown}
      aria-label="The still picture before the shot"
      src={`/api/recordings/${film.sha256}/file#t=${film.still}${shown && film.rest ? `,${film.rest}` : ""}`}
    />
  );
}

interface FormProps {
  riddle: Riddle;
  guess: Omit<Guess, "name">;
  onGuess: (guess: Omit<Guess, "name">) => void;
}

function GuessForm({ riddle, guess, onGuess }: FormProps) {
  const [name, setName] = useState("");
  const send = useGuess(riddle.id);
  return (
    <form
      aria-label="An answer"
      className="sheet flex flex-wrap items-end gap-3 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate(
          { ...guess, name },
          {
            onSuccess: () => {
              setName("");
              onGuess(NOTHING);
            },
          },
        );
      }}
    >
      <label className="flex flex-col">
        who
        <input
          className="input input-sm w-44"
          required
          maxLength={100}
          value={name}
          onChange={(event) => {
            setName(event.target.value);
          }}
        />
      </label>
      <span className="flex gap-1">
        {(["attack", "safety"] as const).map((intent) => (
          <Chip
            key={intent}
            on={guess.intent === intent}
            onClick={() => {
              onGuess({ ...guess, intent });
            }}
          >
            {intent}
          </Chip>
        ))}
      </span>
      <label className="flex flex-col">
        ball
        <select
          className="select select-sm w-auto"
          value={guess.ball ?? ""}
          onChange={(event) => {
            onGuess({ ...guess, ball: event.target.value || null });
          }}
        >
          <option value="">none</option>
          {Object.keys(riddle.balls)
            .filter((ball) => ball !== "cue")
            .map((ball) => (
              <option key={ball} value={ball}>
                {ballName(ball)}
              </option>
            ))}
        </select>
      </label>
      <label className="flex flex-col">
        pocket
        <select
          className="select select-sm w-auto"
          value={guess.pocket ?? ""}
          onChange={(event) => {
            onGuess({ ...guess, pocket: (event.target.value || null) as Guess["pocket"] });
          }}
        >
          <option value="">none</option>
          {riddle.table.pockets.map((one) => (
            <option key={one.name} value={one.name}>
              {pocketWords(one.name)}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col">
        comes off, times in a hundred
        <input
          type="number"
          className="input input-sm w-28"
          min={0}
          max={100}
          value={guess.felt ?? ""}
          onChange={(event) => {
            onGuess({ ...guess, felt: event.target.value === "" ? null : Number(event.target.value) });
          }}
        />
      </label>
      <button className="btn btn-primary btn-sm" disabled={send.isPending}>
        that is my answer
      </button>
      <Problem of={send.error} />
    </form>
  );
}

type Told = NonNullable<Riddle["shown"]>;

function Shown({ told }: { told: Told }) {
  const { computed } = told;
  const worth = (value: number) =>
    computed?.unit === "balls" ? `${value.toFixed(1)} balls` : percent(value);
  return (
    <section aria-label="All answers" className="space-y-2">
      <h2 className="text-lg">All answers</h2>
      <ol data-testid="counted">
        {told.counted.map((one) => (
          <li key={one.words} className="flex gap-3">
            <b className="w-8 text-right">{one.n}</b> {one.words}
          </li>
        ))}
      </ol>
      <p>
        Played: <b>{told.played}</b>
        {told.result && `, ${told.result.replace("-", " ")}`}
        {computed?.played_worth != null && `; worth ${worth(computed.played_worth)}`}.
      </p>
      <p>
        {computed ? (
          <>
            Best by the numbers: <b>{computed.best}</b>; worth {worth(computed.worth)}.
          </>
        ) : (
          "Nothing is computed: the match is not judged as it stands. Open its verdict."
        )}
      </p>
      {told.felt !== null && (
        <p>
          Felt: {Math.round(told.felt)} times in a hundred on average
          {computed?.pot != null && `; computed for what was played: ${percent(computed.pot)}`}.
        </p>
      )}
      <p className="caption">
        rings: where people wanted the white; dashed: where it stopped; red: the way of the best by the
        numbers
      </p>
    </section>
  );
}

const spot = (place: Place, line: Shape["line"]): Shape => ({
  line,
  points: ring(place, SPOT),
  closed: true,
});

function shapesOf(told: Told): Shape[] {
  return [
    ...told.answers.flatMap((one) => (one.place ? [spot(one.place, "ideal")] : [])),
    ...(told.stopped ? [spot(told.stopped, "ghost")] : []),
    ...(told.computed && told.computed.path.length > 1
      ? [{ line: "error" as const, points: told.computed.path }]
      : []),
  ];
}
