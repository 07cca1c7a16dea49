/** The shot lab's address: a logged shot of a match, or a layout of one's own. */
import { Link, useSearchParams } from "react-router";

import { disciplineOf } from "../../games/discipline";
import { useGame, useLabChoices, useReading } from "../../api/queries";
import type { Game, Lab as Choices } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { meant, logged } from "../bench/model/entry";
import { Lab } from "./Lab";
import { freeLab, labOf, remembered } from "./state";

export function LabPage() {
  const [params] = useSearchParams();
  const match = params.get("match");
  const shot = params.get("shot");
  const choices = useLabChoices();
  if (choices.error) return <Said problem={choices.error} />;
  if (!choices.data) return <Said words="Opening the shot lab …" />;
  if (match && shot) return <MatchLab choices={choices.data} id={match} shotId={shot} />;
  const start = remembered() ?? freeLab(choices.data, disciplineOf("").name);
  return start && <Lab choices={choices.data} start={start} />;
}

function MatchLab({ choices, id, shotId }: { choices: Choices; id: string; shotId: string }) {
  const query = useGame(id);
  if (query.error) return <Said problem={query.error} />;
  if (!query.data) return <Said words="Opening the match …" />;
  return <ShotLab key={shotId} choices={choices} game={query.data} shotId={shotId} />;
}

function ShotLab({ choices, game, shotId }: { choices: Choices; game: Game; shotId: string }) {
  const found = game.racks
    .flatMap((rack) => rack.shots.map((shot) => ({ rack, shot })))
    .find((one) => one.shot.id === shotId);
  const entry = found && logged(found.rack, found.shot);
  const reading = useReading(
    game.header.table ?? "pool-9ft",
    game.header.discipline,
    entry?.before ?? {},
    { ball: entry?.legal[0], pocket: null },
    {},
  );
  if (!found || !entry) return <Said words="This match has no such shot any more." />;
  if (!entry.before["cue"])
    return (
      <div className="p-6">
        <p>This shot has no cue ball on the plan yet: place it on the bench, then it can be played here.</p>
        <Link className="btn btn-sm mt-3" to={`/match/${game.id}?shot=${shotId}`}>
          To the bench
        </Link>
      </div>
    );
  if (!reading.data && !reading.error) return <Said words="Reading the table …" />;
  const target = meant(game, entry, reading.data?.shots ?? []);
  const start = labOf(
    game,
    found.shot,
    target && target.pocket ? { ball: target.ball, pocket: target.pocket } : null,
  );
  return start && <Lab choices={choices} start={start} from={{ game, ...found }} />;
}

function Said({ words, problem }: { words?: string; problem?: Error }) {
  return <div className="p-6">{problem ? <Problem of={problem} /> : words}</div>;
}
