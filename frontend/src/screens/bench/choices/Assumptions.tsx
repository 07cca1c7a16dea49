/** What the numbers assume, beside them and changeable: both hands, the cueing arm, the school, how far they look. */
import type { Choices } from "../../../api/types";
import type { HandName } from "../../../api/types";
import { Choice } from "../../../parts/Chips";
import { HANDS, useAssumed } from "./state";

type Hand = Choices["hands"][number];

const errors = (hand: Hand) =>
  `aim ± ${hand.aim_deg.toFixed(2)}°, speed ± ${(100 * hand.speed).toFixed(1)} %`;

/** What a hand's errors are; of partners who plays now comes first. */
const NUMBERS = (hand: Hand) =>
  hand.partner ? `now ${errors(hand)}; then ${errors(hand.partner)}` : errors(hand);

export function Assumptions({
  answer,
  player,
  opponent,
  table,
}: {
  answer: Choices | undefined;
  player: string;
  /** Null: nobody plays against him. */
  opponent: string | null;
  table: string;
}) {
  const assumed = useAssumed();
  const schools = answer?.body.schools ?? [];
  return (
    <details className="text-[12px]" open>
      <summary className="cursor-pointer">Assumed</summary>
      <div className="mt-1 grid grid-cols-[auto_1fr] items-center gap-x-2 gap-y-1">
        <HandChoice
          name={player}
          value={assumed.player}
          numbers={answer && NUMBERS(answer.hands[0])}
          onChange={(hand) => {
            useAssumed.setState({ player: hand });
          }}
        />
        {opponent && (
          <HandChoice
            name={opponent}
            value={assumed.opponent}
            numbers={answer && NUMBERS(answer.hands[1])}
            onChange={(hand) => {
              useAssumed.setState({ opponent: hand });
            }}
          />
        )}
        <span className="opacity-75">cues with</span>
        <span className="flex flex-wrap items-center gap-x-2">
          <Choice
            label="Cueing arm"
            value={assumed.handed}
            options={["", "right", "left", "both"]}
            empty="as noted, else right"
            onChange={(handed) => {
              useAssumed.setState({ handed });
            }}
          />
          <span className="opacity-75">
            {table}; looks ahead: {answer?.body.options?.horizon ?? "…"}
          </span>
        </span>
        <span className="opacity-75">school</span>
        <select
          aria-label="School of play"
          className="select select-xs w-auto"
          value={assumed.school}
          title={schools.find((one) => one.name === assumed.school)?.says}
          onChange={(event) => {
            useAssumed.setState({ school: event.target.value });
          }}
        >
          {(schools.length ? schools.map((one) => one.name) : [assumed.school]).map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </div>
    </details>
  );
}

function HandChoice({
  name,
  value,
  numbers,
  onChange,
}: {
  name: string;
  value: HandName;
  numbers: string | undefined;
  onChange: (hand: HandName) => void;
}) {
  return (
    <>
      <span className="max-w-28 truncate opacity-75" title={name}>
        {name}
      </span>
      <span className="flex flex-wrap items-center gap-x-2">
        <select
          aria-label={`Hand of ${name}`}
          className="select select-xs w-auto"
          value={value}
          onChange={(event) => {
            const hand = HANDS.find((one) => one === event.target.value);
            if (hand) onChange(hand);
          }}
        >
          {HANDS.map((hand) => (
            <option key={hand} value={hand}>
              {hand === "record" ? "as on record" : hand}
            </option>
          ))}
        </select>
        <span className="opacity-75">{numbers}</span>
      </span>
    </>
  );
}
