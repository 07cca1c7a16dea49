/** A shot becomes an exercise: as it was, or an easier or harder one of the same kind for a hand. */
import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";

import { useLevels, useMakeExercise, useMakeRuns } from "../../api/practice";
import { useAskRiddle } from "../../api/riddles";
import { Problem } from "../../parts/Problem";

const HANDS = ["beginner", "club", "league", "professional"];

export function NewExercise() {
  const [address] = useSearchParams();
  const [game, shot] = [address.get("game") ?? "", address.get("shot") ?? ""];
  const [hand, setHand] = useState("club");
  const { data, error } = useLevels(game, shot, hand);
  const make = useMakeExercise();
  const runs = useMakeRuns();
  const ask = useAskRiddle();
  const go = useNavigate();
  return (
    <div className="mx-auto w-full max-w-2xl space-y-4 p-5">
      <h1 className="text-2xl">An exercise of this shot</h1>
      <label className="flex items-baseline gap-2">
        for a player of the level
        <select
          className="select select-sm w-auto"
          value={hand}
          onChange={(event) => {
            setHand(event.target.value);
          }}
        >
          {HANDS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </label>
      <Problem of={error ?? make.error ?? runs.error ?? ask.error} />
      <ul className="space-y-2">
        {data?.levels.map((level) => (
          <li key={level.name}>
            <button
              className="sheet w-full cursor-pointer p-3 text-left hover:bg-base-200"
              disabled={make.isPending}
              onClick={() => {
                make.mutate(
                  { game, shot, hand, level: level.name },
                  { onSuccess: (made) => void go(`/practice/${made.id}`, { replace: true }) },
                );
              }}
            >
              <b className="font-serif text-[16px]">{level.name}</b>{" "}
              {level.chance === null
                ? "nothing tells how often it comes off"
                : `comes off about ${Math.round(level.chance * 100)} times in a hundred for such a player`}
            </button>
          </li>
        ))}
      </ul>
      <button
        className="sheet w-full cursor-pointer p-3 text-left hover:bg-base-200"
        disabled={runs.isPending}
        onClick={() => {
          runs.mutate(
            { game, shot },
            { onSuccess: (made) => void go(`/practice/${made.id}`, { replace: true }) },
          );
        }}
      >
        <b className="font-serif text-[16px]">the whole table</b> run out from here: how many balls, and why
        it ended
      </button>
      <button
        className="sheet w-full cursor-pointer p-3 text-left hover:bg-base-200"
        disabled={ask.isPending}
        onClick={() => {
          ask.mutate(
            { game, shot },
            { onSuccess: (made) => void go(`/question/${made.id}`, { replace: true }) },
          );
        }}
      >
        <b className="font-serif text-[16px]">a question</b> for one or many: what would you play here?
      </button>
      <p className="text-[12px] opacity-80">
        What comes off six to eight times in ten teaches most. Easier and harder ones keep the cut and move
        the cue ball along its line.
      </p>
    </div>
  );
}
