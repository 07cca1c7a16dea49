/** What surrounds every page: name, places to go, light, and how the server is doing. */
import { Moon, Sun } from "lucide-react";
import { useEffect } from "react";
import { NavLink, Outlet } from "react-router";

import { dismissRefusal, useOutbox } from "../api/outbox";
import { useSession } from "../api/queries";
import { useSettings } from "../settings";

const PLACES = [
  { to: "/", words: "Matches" },
  { to: "/lab", words: "Shot lab" },
  { to: "/figures", words: "Figures" },
];

export function Frame() {
  const theme = useSettings((state) => state.theme);
  const session = useSession();
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  const other = theme === "plan" ? "plan-night" : "plan";
  return (
    <div className="flex min-h-dvh flex-col">
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:p-2">
        Skip to the content
      </a>
      <header className="flex h-10 shrink-0 items-center gap-2 border-b whitespace-nowrap sm:gap-5 border-base-300 px-3">
        <NavLink to="/" className="flex items-center gap-2 font-serif text-[17px]">
          <img src="/favicon.svg" alt="" className="size-5" />{" "}
          <span className="sr-only sm:not-sr-only">Aretane</span>
        </NavLink>
        <nav className="flex gap-1" aria-label="Main">
          {PLACES.map(({ to, words }) => (
            <NavLink
              key={to}
              to={to}
              end
              className={({ isActive }) => `px-1 py-1 sm:px-2 ${isActive ? "border-b-2 border-primary" : ""}`}
            >
              {words}
            </NavLink>
          ))}
        </nav>
        <span className="ml-auto hidden truncate opacity-70 sm:inline">{session.data?.club}</span>
        <SendingState />
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label={theme === "plan" ? "Dark paper" : "Light paper"}
          onClick={() => {
            useSettings.setState({ theme: other });
          }}
        >
          {theme === "plan" ? <Moon size={15} /> : <Sun size={15} />}
        </button>
      </header>
      <main id="content" className="flex min-h-0 flex-1 flex-col">
        <Outlet />
      </main>
    </div>
  );
}

function SendingState() {
  const { waiting, away, refused } = useOutbox();
  if (refused)
    return (
      <button role="alert" className="max-w-md truncate text-error" title={refused} onClick={dismissRefusal}>
        {refused} <span className="key">dismiss</span>
      </button>
    );
  if (away)
    return (
      <span role="status" className="text-warning">
        Aretane does not answer; {waiting.length} {waiting.length === 1 ? "change is" : "changes are"} kept
        here
      </span>
    );
  return (
    <span role="status" className="caption" data-testid="sync">
      {waiting.length ? "writing" : "all written"}
    </span>
  );
}
