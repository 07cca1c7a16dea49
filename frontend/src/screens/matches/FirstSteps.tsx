/** What an empty club is greeted with. */
import { Link } from "react-router";

export function FirstSteps({ onNew }: { onNew: () => void }) {
  return (
    <section aria-label="First steps" className="sheet max-w-xl space-y-3 p-5">
      <h2 className="text-lg">The first three steps</h2>
      <ol className="list-decimal space-y-2 pl-5">
        <li>
          <b>Bring a recording.</b> A phone on a shelf will do, if the whole table is in the picture. Add the
          file under Recordings; without one everything can be logged on the plan alone.
        </li>
        <li>
          <b>Begin a match</b>: who plays what.{" "}
          <button className="chip" onClick={onNew}>
            new match
          </button>{" "}
          On its bench choose the recording, mark the table&rsquo;s four corners and let the shots be found.
        </li>
        <li>
          <b>Nod or put right.</b> Each shot is told in one sentence; Enter agrees. At the moments that matter
          ask for the choices.
        </li>
      </ol>
      <p>
        <Link className="underline" to="/first-hour">
          A coach&rsquo;s first hour
        </Link>{" "}
        goes through it with pictures. Or look round first: import a match, or stop this and run{" "}
        <code>./aretane demo</code>, which brings those of an invented club.
      </p>
    </section>
  );
}
