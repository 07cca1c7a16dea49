/** Variants put aside to compare: each was repeated with the same errors of the hand, so differences count. */
import type { Simulated } from "../../api/types";
import { pocketWords, rateWords } from "../../words";
import { speedWords } from "./speeds";
import type { LabState } from "./state";
import { tipWords } from "./TipFace";

export interface Variant {
  lab: LabState;
  answer: Simulated;
}

export function Kept({
  variants,
  onShow,
  onDrop,
}: {
  variants: Variant[];
  onShow: (lab: LabState) => void;
  onDrop: (index: number) => void;
}) {
  if (!variants.length) return null;
  return (
    <section aria-label="Variants" className="overflow-x-auto p-3">
      <h2 className="mb-1 text-[15px]">Put aside to compare</h2>
      <table className="w-full text-left" data-testid="variants">
        <thead className="caption">
          <tr>
            {["shot", "stroke", "table", "hand", "pot, no foul", "scratch", ""].map((head) => (
              <th key={head} className="pr-3 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {variants.map(({ lab, answer }, index) => (
            <tr key={index} className="border-t border-base-300">
              <td className="pr-3">{lab.at ? `${lab.at}, ${pocketWords(lab.pocket)}` : "free line"}</td>
              <td className="pr-3">
                {speedWords(lab.speed)} {lab.speed.toFixed(2)} m/s, {tipWords(lab.side, lab.height)}
                {lab.elevation > 0 && `, raised ${((lab.elevation * 180) / Math.PI).toFixed(0)}°`}
              </td>
              <td className="pr-3">
                {typeof lab.table === "string" ? lab.table.replace("-", " ") : "its own"}
                {Object.keys(lab.physics).length > 0 && ", changed"}
              </td>
              <td className="pr-3">{lab.hand}</td>
              <td className="pr-3">{answer.samples && rateWords(answer.samples.pot)}</td>
              <td className="pr-3">{answer.samples && rateWords(answer.samples.scratch_rate)}</td>
              <td className="whitespace-nowrap">
                <button
                  className="chip"
                  onClick={() => {
                    onShow(lab);
                  }}
                >
                  show
                </button>{" "}
                <button
                  className="chip"
                  aria-label={`Drop variant ${index + 1}`}
                  onClick={() => {
                    onDrop(index);
                  }}
                >
                  drop
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
