/** What can be chosen without a stroke, and how a rack ends without a last ball. */
import type { Game, ShotDocument } from "../../api/types";
import { choiceWords, disciplineOf } from "../../games/discipline";
import { Chip, Choice, Line } from "../../parts/Chips";
import { named } from "./Board";
import { freeBall, type Entry } from "./entry";

interface Props {
  game: Game;
  entry: Entry;
  onChoice: (choice: string, more?: Partial<ShotDocument>) => void;
  onChange: (patch: Partial<ShotDocument>, label: string) => void;
}

export function Answers({ game, entry, onChoice, onChange }: Props) {
  const up = entry.up;
  if (!up || entry.shot) return null;
  const { name } = disciplineOf(game.header.discipline);
  const other = named(game, up.player === "A" ? "B" : "A");
  const afterFoul = up.phase === "after a foul";
  const answers = up.choices.filter((choice) => choice !== "push-out" && !choice.startsWith("free-ball:"));
  if (!answers.length && !afterFoul) return null;
  return (
    <Line name="Answer">
      {answers.map((choice) => (
        <Chip
          key={choice}
          onClick={() => {
            onChoice(choice);
          }}
        >
          {choiceWords(choice, name, up.choices, other)}
        </Chip>
      ))}
      {answers.includes("play-again") && game.rules["miss"] === true && (
        <Chip
          onClick={() => {
            onChoice("play-again", { replaced: false });
          }}
        >
          has {other} play from here
        </Chip>
      )}
      {afterFoul && <FreeBall entry={entry} offered={up.choices} onChange={onChange} />}
    </Line>
  );
}

/** A free ball is nominated where no ball on can be hit full: offered where the places show it, else at the coach's word. */
function FreeBall({
  entry,
  offered,
  onChange,
}: {
  entry: Entry;
  offered: string[];
  onChange: Props["onChange"];
}) {
  const now = freeBall(entry.document);
  const shown = offered.filter((one) => one.startsWith("free-ball:")).map((one) => one.slice(10));
  const balls = shown.length ? shown : entry.standing.filter((ball) => !entry.legal.includes(ball));
  return (
    <Choice
      label="Free ball"
      value={now ? `free ball: ${now}` : "no free ball"}
      options={["no free ball", ...balls.map((ball) => `free ball: ${ball}`)]}
      onChange={(chosen) => {
        const ball = chosen.startsWith("free ball: ") ? chosen.slice("free ball: ".length) : null;
        onChange(
          {
            declared: ball ? `free-ball:${ball}` : null,
            called: ball ? { ball, pocket: null } : undefined,
          },
          "free ball",
        );
      }}
    />
  );
}

const GOES_ON = "goes on";
const WITHOUT_WINNER = "ends without a winner";

/** Given up, or over without a winner (a solo run that has ended, a rack that is played again). */
export function EndOfRack({
  game,
  entry,
  onEnd,
}: {
  game: Game;
  entry: Entry;
  onEnd: (how: "A" | "B" | "closed") => void;
}) {
  if (entry.shot || !entry.rack) return null;
  const { rack } = disciplineOf(game.header.discipline);
  const label = (player: string) => `${named(game, player)} gives it up`;
  return (
    <Choice
      label={`This ${rack}`}
      value={`the ${rack} ${GOES_ON}`}
      options={[`the ${rack} ${GOES_ON}`, label("A"), label("B"), WITHOUT_WINNER]}
      onChange={(chosen) => {
        if (chosen === WITHOUT_WINNER) onEnd("closed");
        else if (chosen === label("A")) onEnd("A");
        else if (chosen === label("B")) onEnd("B");
      }}
    />
  );
}
