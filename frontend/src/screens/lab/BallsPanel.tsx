/** Which game's balls are on the table of a layout of one's own. */
import type { Place } from "../../api/types";
import { freeLab, type PanelProps } from "./state";
import { Choice } from "./StrokePanel";

export function BallsPanel({ lab, choices, change }: PanelProps) {
  const all = choices.balls[lab.discipline] ?? [];
  const spot = (): Place => {
    const taken = Object.values(lab.balls);
    const places = Array.from({ length: 60 }, (_, n): Place => [
      lab.drawn.length * (0.15 + 0.07 * (n % 10)),
      lab.drawn.width * (0.1 + 0.14 * Math.floor(n / 10)),
    ]);
    const clear = (place: Place) =>
      taken.every((one) => Math.hypot(one[0] - place[0], one[1] - place[1]) > 0.07);
    return places.find(clear) ?? [0.5, 0.5];
  };
  return (
    <section aria-label="Balls" className="sheet p-3">
      <Choice
        label="Game"
        value={lab.discipline}
        onChange={(discipline) => {
          change(freeLab(choices, discipline) ?? {});
        }}
      >
        {Object.keys(choices.balls).map((one) => (
          <option key={one}>{one}</option>
        ))}
      </Choice>
      <span className="caption mt-2 block">balls on the table</span>
      <div className="mt-1 flex flex-wrap gap-1">
        {all.map((ball) => {
          const on = ball in lab.balls;
          return (
            <button
              key={ball}
              className="chip"
              aria-pressed={on}
              disabled={ball === "cue"}
              onClick={() => {
                const rest = Object.fromEntries(Object.entries(lab.balls).filter(([one]) => one !== ball));
                if (on) change({ balls: rest, ...(lab.at === ball ? { at: null, pocket: null } : {}) });
                else change({ balls: { ...lab.balls, [ball]: spot() } });
              }}
            >
              {ball}
            </button>
          );
        })}
      </div>
    </section>
  );
}
