/** Practice: the exercises that were made of shots, each with what its attempts came to. */
import { Link } from "react-router";

import { useExercises } from "../../api/practice";
import { Problem } from "../../parts/Problem";
import { RateBar } from "../../parts/RateBar";
import { percent, rateWords } from "../../words";

export function Practice() {
  const { data, error } = useExercises();
  return (
    <div className="mx-auto w-full max-w-4xl space-y-4 p-5">
      <h1 className="text-2xl">Practice</h1>
      <Problem of={error} />
      {data?.exercises.length === 0 && (
        <p className="max-w-xl">
          No exercise yet. On the bench, Shift+E makes one of the shot; the verdict offers it with every
          moment. It is then practised from a tablet or phone on the rail.
        </p>
      )}
      <ul className="divide-y divide-base-300 border-y border-base-300 empty:border-0">
        {data?.exercises.map((one) => (
          <li key={one.id}>
            <Link
              to={`/practice/${one.id}`}
              className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 py-2 hover:bg-base-200 sm:grid-cols-[1fr_120px_210px]"
            >
              <span className="font-serif text-[16px]">{one.title}</span>
              <span className="hidden sm:block">
                <RateBar rate={one.rate} />
              </span>
              <span className="text-[12px]">
                {rateWords(one.rate)}
                {one.chance !== null && <span className="opacity-75">; expected {percent(one.chance)}</span>}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
