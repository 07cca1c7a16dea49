import { beforeEach, expect, it, vi } from "vitest";

const stored = new Map<string, unknown>();
let finished: Promise<void>; // of the browser's transaction

vi.mock("idb-keyval", () => ({
  createStore: () => (_mode: string, work: (store: unknown) => Promise<unknown>) =>
    work({
      getAllKeys: () => [...stored.keys()],
      get: (key: string) => stored.get(key),
      put: (value: unknown, key: string) => stored.set(key, value),
      delete: (key: string) => stored.delete(key),
      transaction: finished,
    }),
  promisifyRequest: (one: unknown) => Promise.resolve(one),
  set: (key: string, value: unknown) => Promise.resolve(void stored.set(key, value)),
  del: (key: string) => Promise.resolve(void stored.delete(key)),
}));
const answer = vi.fn();
vi.mock("./client", () => ({
  Refusal: class extends Error {},
  api: { POST: answer },
  answered: (one: unknown) => one,
}));

const left = {
  game: "one",
  operation: { id: "earlier", client: "", seen: 0, label: "", changes: [], over: false },
};

/** A page that begins anew. */
async function opened() {
  vi.resetModules();
  return import("./outbox");
}

beforeEach(() => {
  stored.clear();
  finished = Promise.resolve();
  answer.mockReset();
});

it("keeps a change that comes while what an earlier visit left is taken over", async () => {
  answer.mockReturnValue(new Promise(() => undefined)); // the server takes its time
  stored.set("aretane-outbox:another tab", [left]);
  let finish: () => void = () => undefined;
  finished = new Promise((done) => (finish = done));
  const { openOutbox, post, useOutbox } = await opened();
  const opening = openOutbox(() => undefined);
  await new Promise((done) => setTimeout(done, 0)); // the store has been read
  post("one", 1, "a shot", []);
  finish();
  await opening;
  const waiting = useOutbox.getState().waiting.map((one) => one.operation);
  expect(waiting.map((one) => one.label || one.id)).toEqual(["earlier", "a shot"]);
  expect([...stored.values()]).toEqual([useOutbox.getState().waiting]);
});

it("keeps a change that comes while nothing was left", async () => {
  answer.mockReturnValue(new Promise(() => undefined));
  let finish: () => void = () => undefined;
  finished = new Promise((done) => (finish = done));
  const { openOutbox, post, useOutbox } = await opened();
  const opening = openOutbox(() => undefined);
  await new Promise((done) => setTimeout(done, 0));
  post("one", 1, "a shot", []);
  finish();
  await opening;
  expect(useOutbox.getState().waiting).toHaveLength(1);
});

it("sends in order, lets go of what is acknowledged and delivers the last answer of a match", async () => {
  answer.mockImplementation((_path: string, sent: { body: { label: string } }) =>
    Promise.resolve({ answered: sent.body.label }),
  );
  const delivered: unknown[] = [];
  const { openOutbox, post, useOutbox, written } = await opened();
  await openOutbox((game) => delivered.push(game));
  post("one", 1, "first", []);
  post("one", 1, "second", []);
  await written("one");
  expect(delivered).toEqual([{ answered: "second" }]);
  expect(useOutbox.getState().waiting).toEqual([]);
  expect(stored.size).toBe(0);
});

it("sends again what did not arrive, the same change", async () => {
  vi.useFakeTimers();
  answer.mockRejectedValueOnce(new Error("no line")).mockResolvedValue({});
  const { openOutbox, post, useOutbox } = await opened();
  await openOutbox(() => undefined);
  post("one", 1, "a shot", []);
  await vi.advanceTimersByTimeAsync(0);
  expect(useOutbox.getState().away).toBe(true);
  expect(useOutbox.getState().waiting).toHaveLength(1);
  await vi.advanceTimersByTimeAsync(400);
  expect(useOutbox.getState().away).toBe(false);
  const ids = answer.mock.calls.map((call) => (call[1] as { body: { id: string } }).body.id);
  expect(ids[0]).toBe(ids[1]);
  vi.useRealTimers();
});
