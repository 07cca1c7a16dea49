/** Figures: a question with its answer as a picture, or the survey of everything that is counted. */
import { Link, useSearchParams } from "react-router";

import { Ask } from "./Ask";
import { Survey } from "./Survey";

export function Figures({ survey = false }: { survey?: boolean }) {
  const [address] = useSearchParams();
  return (
    <div className="mx-auto w-full max-w-6xl space-y-4 p-5">
      <div className="flex flex-wrap items-baseline gap-4">
        <h1 className="mr-auto text-2xl">Figures</h1>
        <nav aria-label="Figures" className="flex gap-2">
          <Link
            className="chip"
            aria-current={!survey}
            to={{ pathname: "/figures", search: survey ? "" : address.toString() }}
          >
            ask a question
          </Link>
          <Link className="chip" aria-current={survey} to="/figures/survey">
            survey
          </Link>
        </nav>
      </div>
      {survey ? <Survey /> : <Ask />}
    </div>
  );
}
