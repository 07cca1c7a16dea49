/** What surrounds every page: name, places to go, light, and how the server is doing. */
import { Moon, Sun } from "lucide-react";
import { useState } from "react";
import { NavLink, Outlet } from "react-router";

import { giveUp, tryAgain, useOutbox, type Waiting } from "../api/outbox";
import { useSession } from "../api/queries";
import { useSettings, useTheme } from "../settings";
import { Chip } from "./Chips";
import { Dialog } from "./Dialog";

const PLACES = [
  { to: "/", words: "Matches" },
  { to: "/lab", words: "Shot lab" },
  { to: "/figures", words: "Figures" },
  { to: "/practice", words: "Practice" },
];

export function Frame() {
  const theme = useSettings((state) => state.theme);
  const session = useSession();
  useTheme();
  const other = theme === "plan" ? "plan-night" : "plan";
  return (
    <div className="flex min-h-dvh flex-col">
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:p-2">
        Skip to the content
      </a>
      <header className="flex h-10 shrink-0 items-center gap-2 border-b whitespace-nowrap sm:gap-5 border-base-300 px-3">
        <NavLink to="/" className="flex shrink-0 items-center gap-2 font-serif text-[17px]">
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
  const [open, setOpen] = useState(false);
  return (
    <>
      <HowItIsSent
        onRefused={() => {
          setOpen(true);
        }}
      />
      {open && (
        <NotWritten
          onClose={() => {
            setOpen(false);
          }}
        />
      )}
    </>
  );
}

function HowItIsSent({ onRefused }: { onRefused: () => void }) {
  const { waiting, away, unkept } = useOutbox();
  const refused = waiting.filter((one) => one.refused);
  if (refused.length)
    return (
      <button role="alert" className="max-w-md truncate text-error" onClick={onRefused}>
        {refused.length === 1 ? "One change was" : `${refused.length} changes were`} not written:{" "}
        {refused[0]?.refused}
      </button>
    );
  if (away || unkept)
    return (
      <span role="status" className="text-warning">
        {away ? "Aretane does not answer; " : ""}
        {waiting.length} {waiting.length === 1 ? "change is" : "changes are"}{" "}
        {unkept ? "kept by this page alone: do not close it" : "kept here"}
      </span>
    );
  return (
    <span role="status" className="caption max-[460px]:sr-only" data-testid="sync">
      {waiting.length ? "writing" : "all written"}
    </span>
  );
}

/** What the server does not take: why, and what can be done about it. */
function NotWritten({ onClose }: { onClose: () => void }) {
  const { waiting } = useOutbox();
  const refused = waiting.filter((one) => one.refused);
  return (
    <Dialog title="Not written" onClose={onClose}>
      <p className="mb-3">
        These changes are kept here, and so are later ones of the same match. Correct the entry on its bench:
        that mends the change and sends it. Or:
      </p>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {refused.map((one) => (
          <li key={one.operation.id} className="py-2">
            <NavLink to={placeOf(one)} className="underline" onClick={onClose}>
              {one.operation.label}
            </NavLink>
            <p className="text-error">{one.refused}</p>
            <div className="mt-1 flex gap-2">
              <Chip
                onClick={() => {
                  tryAgain(one);
                }}
              >
                try again
              </Chip>
              <Chip
                onClick={() => {
                  if (confirm(`Give up "${one.operation.label}"? It is lost then.`)) giveUp(one);
                }}
              >
                give up
              </Chip>
            </div>
          </li>
        ))}
      </ul>
      {refused.length === 0 && <p>All is written, or on its way.</p>}
    </Dialog>
  );
}

/** Where the entry of a change stands. */
function placeOf({ game, operation }: Waiting): string {
  const shot = operation.changes.find((one) => one.kind === "shot");
  return shot ? `/match/${game}?shot=${shot.id}` : `/match/${game}`;
}
