import { Link } from "react-router";

export function NotHere() {
  return (
    <div className="m-auto max-w-md p-8 text-center">
      <h1 className="text-2xl">There is nothing at this address</h1>
      <p className="my-3">The match may have been deleted, or the address was typed by hand.</p>
      <Link to="/" className="btn btn-sm">
        To the matches
      </Link>
    </div>
  );
}
