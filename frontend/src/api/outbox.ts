/**
 * Changes on their way to the server. They are written to the browser's own store before they are sent, and kept
 * until they are acknowledged or the coach gives them up; sent again with the same id, each is done exactly once.
 *
 * What the server refuses waits, with its reason, and so do later changes of its match; other matches go on.
 */
import { createStore, del, promisifyRequest, set } from "idb-keyval";
import { create } from "zustand";

import { Refusal, answered, api } from "./client";
import type { Change, Game, Operation } from "./types";

const STORE = "aretane-outbox:"; // and the tab: tabs must not overwrite one another
const RETRY = [400, 1000, 2500, 5000];

export interface Waiting {
  game: string;
  operation: Operation;
  /** Why the server does not take it. */
  refused?: string;
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
  loaded: boolean;
  /** The browser's own store does not take them: they are lost when the page is closed. */
  unkept: boolean;
}

export const useOutbox = create<Outbox>(() => ({
  waiting: [],
  away: false,
  clash: null,
  loaded: false,
  unkept: false,
}));

/** This tab, for as long as it lives. */
export const client = crypto.randomUUID();

let deliver: (game: Game) => void = () => undefined;
let sending = false;

/**
 * What earlier visits (or other tabs, whose changes are then sent twice and done once) left behind, taken over by
 * this tab in one transaction of the browser's store.
 */
async function takeOver(): Promise<Waiting[]> {
  const own = STORE + client;
  return createStore("keyval-store", "keyval")("readwrite", async (store) => {
    const keys = (await promisifyRequest(store.getAllKeys())).filter(
      (key): key is string => typeof key === "string" && key.startsWith(STORE) && key !== own,
    );
    const left = (await Promise.all(keys.map((key) => promisifyRequest<Waiting[]>(store.get(key))))).flat();
    for (const key of keys) store.delete(key);
    if (left.length) store.put([...left, ...useOutbox.getState().waiting], own);
    await promisifyRequest(store.transaction);
    return left;
  });
}

/** Start with what an earlier visit left behind. `onAnswer` gets the game after each acknowledged change. */
export async function openOutbox(onAnswer: (game: Game) => void): Promise<void> {
  deliver = onAnswer;
  if (useOutbox.getState().loaded) return;
  useOutbox.setState({ loaded: true });
  try {
    const left = await takeOver();
    if (left.length) keep([...left, ...useOutbox.getState().waiting]); // what came meanwhile goes after it
  } catch {
    useOutbox.setState({ unkept: true });
  }
  void flush();
}

/** Put a change on its way. One of what the server has refused before mends that, in its place in the queue. */
export function post(game: string, seen: number, label: string, changes: Change[]): void {
  const { waiting } = useOutbox.getState();
  const mended = waiting.find((one) => one.game === game && one.refused && touches(one.operation, changes));
  if (mended) {
    const operation = { ...mended.operation, id: crypto.randomUUID(), seen, label };
    const others = mended.operation.changes.filter((old) => !changes.some((one) => sameFact(one, old)));
    replace(mended, { game, operation: { ...operation, changes: [...others, ...changes] } });
  } else {
    const operation: Operation = { id: crypto.randomUUID(), client, seen, label, changes, over: false };
    keep([...waiting, { game, operation }]);
  }
  void flush();
}

const sameFact = (one: Change, other: Change) => one.kind === other.kind && one.id === other.id;

const touches = (operation: Operation, changes: Change[]) =>
  operation.changes.some((old) => changes.some((one) => sameFact(one, old)));

/** When everything of this match has been written. */
export function written(game: string): Promise<void> {
  const there = () => useOutbox.getState().waiting.every((one) => one.game !== game);
  if (there()) return Promise.resolve();
  return new Promise((done) => {
    const stop = useOutbox.subscribe(() => {
      if (!there()) return;
      stop();
      done();
    });
  });
}

/** Give up the change that clashed, or send it again to stand where both touched the same fields. */
export function settle(mine: boolean): void {
  const { clash, waiting } = useOutbox.getState();
  if (!clash) return;
  const rest = waiting.filter((one) => one.operation.id !== clash.operation.id);
  const again = { ...clash.operation, id: crypto.randomUUID(), over: true };
  keep(mine ? [{ game: clash.game, operation: again }, ...rest] : rest);
  useOutbox.setState({ clash: null });
  void flush();
}

/** Send what was refused once more. */
export function tryAgain(one: Waiting): void {
  replace(one, { game: one.game, operation: one.operation });
  void flush();
}

/** The coach says that it is not wanted any more. */
export function giveUp(one: Waiting): void {
  keep(useOutbox.getState().waiting.filter((other) => other.operation.id !== one.operation.id));
  void flush();
}

function replace(one: Waiting, next: Waiting): void {
  keep(useOutbox.getState().waiting.map((other) => (other.operation.id === one.operation.id ? next : other)));
}

function keep(waiting: Waiting[]): void {
  useOutbox.setState({ waiting });
  (waiting.length ? set(STORE + client, waiting) : del(STORE + client)).then(
    () => {
      useOutbox.setState({ unkept: false });
    },
    () => {
      useOutbox.setState({ unkept: true });
    },
  );
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
        if (problem instanceof Refusal && problem.final) {
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

/** The first change of a match in which nothing was refused. */
function next(): Waiting | undefined {
  const { waiting, clash } = useOutbox.getState();
  const held = new Set(waiting.filter((one) => one.refused).map((one) => one.game));
  if (clash) held.add(clash.game);
  return waiting.find((one) => !held.has(one.game));
}

async function sendOne(one: Waiting): Promise<void> {
  const path = { params: { path: { game_id: one.game } }, body: one.operation };
  const game = await answered<Game>(api.POST("/api/games/{game_id}/operations", path));
  keep(useOutbox.getState().waiting.filter((other) => other.operation.id !== one.operation.id));
  if (!useOutbox.getState().waiting.some((other) => other.game === one.game)) deliver(game);
}

function refuse(one: Waiting, problem: Refusal): void {
  if (problem.status === 409 && problem.theirs)
    useOutbox.setState({ clash: { game: one.game, operation: one.operation, theirs: problem.theirs } });
  else replace(one, { ...one, refused: problem.message });
}
