/**
 * Changes on their way to the server. They are written to the browser's own store before they are sent,
 * kept until they are acknowledged, and sent again with the same id: the server does each exactly once.
 */
import { del, entries, set } from "idb-keyval";
import { create } from "zustand";

import { Refusal, answered, api } from "./client";
import type { Change, Game, Operation } from "./types";

const STORE = "aretane-outbox:"; // and the tab: tabs must not overwrite one another
const RETRY = [400, 1000, 2500, 5000];

export interface Waiting {
  game: string;
  operation: Operation;
}

export interface Clash {
  game: string;
  operation: Operation;
  theirs: Record<string, unknown>;
}

interface Outbox {
  waiting: Waiting[];
  away: boolean;
  clash: Clash | null;
  refused: string | null;
  loaded: boolean;
}

export const useOutbox = create<Outbox>(() => ({
  waiting: [],
  away: false,
  clash: null,
  refused: null,
  loaded: false,
}));

/** This tab, for as long as it lives. */
export const client = crypto.randomUUID();

let deliver: (game: Game) => void = () => undefined;
let sending = false;

/** What earlier visits (or other tabs, whose changes are then sent twice and done once) left behind. */
async function leftBehind(): Promise<Waiting[]> {
  const stores = await entries<string, Waiting[]>();
  const found = stores.filter(([key]) => key.startsWith(STORE));
  await Promise.all(found.map(([key]) => del(key)));
  return found.flatMap(([, waiting]) => waiting);
}

/** Start with what an earlier visit left behind. `onAnswer` gets the game after each acknowledged change. */
export async function openOutbox(onAnswer: (game: Game) => void): Promise<void> {
  deliver = onAnswer;
  if (useOutbox.getState().loaded) return;
  useOutbox.setState({ loaded: true });
  const kept = await leftBehind();
  keep([...kept, ...useOutbox.getState().waiting]);
  void flush();
}

/** Put a change on its way. */
export function post(game: string, seen: number, label: string, changes: Change[]): void {
  const operation: Operation = { id: crypto.randomUUID(), client, seen, label, changes };
  keep([...useOutbox.getState().waiting, { game, operation }]);
  useOutbox.setState({ refused: null });
  void flush();
}

/** Give up the change that clashed, or send it over the other's on purpose. */
export function settle(mine: boolean, seen: number): void {
  const { clash, waiting } = useOutbox.getState();
  if (!clash) return;
  const rest = waiting.filter((one) => one.operation.id !== clash.operation.id);
  const again = { ...clash.operation, id: crypto.randomUUID(), seen };
  keep(mine ? [{ game: clash.game, operation: again }, ...rest] : rest);
  useOutbox.setState({ clash: null });
  void flush();
}

export function dismissRefusal(): void {
  useOutbox.setState({ refused: null });
}

function keep(waiting: Waiting[]): void {
  useOutbox.setState({ waiting });
  void (waiting.length ? set(STORE + client, waiting) : del(STORE + client));
}

async function flush(): Promise<void> {
  if (sending) return;
  sending = true;
  let failures = 0;
  try {
    for (let first = next(); first; first = next()) {
      try {
        await sendOne(first);
        failures = 0;
        useOutbox.setState({ away: false });
      } catch (problem) {
        if (problem instanceof Refusal && problem.status !== 503) {
          refuse(first, problem);
          continue;
        }
        useOutbox.setState({ away: true });
        await new Promise((done) => setTimeout(done, RETRY[Math.min(failures++, RETRY.length - 1)]));
      }
    }
  } finally {
    sending = false;
  }
}

function next(): Waiting | undefined {
  const { waiting, clash } = useOutbox.getState();
  return clash ? undefined : waiting[0];
}

async function sendOne(one: Waiting): Promise<void> {
  const path = { params: { path: { game_id: one.game } }, body: one.operation };
  const game = await answered<Game>(api.POST("/api/games/{game_id}/operations", path));
  keep(useOutbox.getState().waiting.filter((other) => other.operation.id !== one.operation.id));
  if (!useOutbox.getState().waiting.some((other) => other.game === one.game)) deliver(game);
}

function refuse(one: Waiting, problem: Refusal): void {
  if (problem.status === 409 && problem.theirs) {
    useOutbox.setState({ clash: { game: one.game, operation: one.operation, theirs: problem.theirs } });
    return;
  }
  keep(useOutbox.getState().waiting.filter((other) => other.operation.id !== one.operation.id));
  useOutbox.setState({ refused: `${one.operation.label} was not written: ${problem.message}` });
}
