/** The one way to the server: adds the CSRF token and turns every failure into a sentence. */
import createClient from "openapi-fetch";

import { placeWords } from "../words";
import type { paths } from "./api";

/** An entry of an imported match that cannot have happened. */
export interface PlaceOfTrouble {
  rack: number;
  shot: number;
  message: string;
}

/** A refusal by the server. `field` names what it is about; `theirs` holds what somebody else wrote. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field: string | null = null,
    readonly theirs: Record<string, unknown> | null = null,
    readonly places: PlaceOfTrouble[] = [],
  ) {
    const place = field ? placeWords(field) : "";
    super(place ? `${place}: ${message}` : message);
  }

  /** Whether sending the same again would be refused again: not so while the server has troubles of its own. */
  get final(): boolean {
    return this.status < 500 && ![408, 429].includes(this.status);
  }
}

/** Nothing was answered: the server is away, or the network is. */
export class Unreachable extends Error {
  constructor() {
    super("Aretane does not answer. What you enter is kept here and sent as soon as it does.");
  }
}

let token: Promise<string> | null = null;

async function csrf(): Promise<string> {
  token ??= fetch("/api/session")
    .then((answer) =>
      answer.ok ? (answer.json() as Promise<{ csrf: string }>) : Promise.reject(new Unreachable()),
    )
    .then((session) => session.csrf)
    .catch(() => {
      token = null;
      throw new Unreachable();
    });
  return token;
}

/** fetch with the token; a stale one (the server's key is new) is renewed once. */
async function guarded(request: Request): Promise<Response> {
  const again = request.clone();
  const answer = await send(request);
  if (answer.status !== 400 || request.method === "GET") return answer;
  token = null;
  return send(again);
}

async function send(request: Request): Promise<Response> {
  if (request.method !== "GET") request.headers.set("X-CSRFToken", await csrf());
  try {
    return await fetch(request);
  } catch (problem) {
    if (problem instanceof DOMException && problem.name === "AbortError") throw problem;
    throw new Unreachable();
  }
}

export const api = createClient<paths>({ fetch: guarded });

/** The data of an answer, or a `Refusal` with the server's own words. The caller names the type. */
export async function answered<T>(
  pending: Promise<{ data?: unknown; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await pending;
  if (response.ok) return data as T;
  throw refusal(response.status, error);
}

function refusal(status: number, error: unknown): Refusal {
  const said = (error ?? {}) as {
    message?: string;
    field?: string;
    theirs?: Record<string, unknown>;
    places?: PlaceOfTrouble[];
  };
  const words = said.message ?? `the server answered ${status}`;
  return new Refusal(status, words, said.field, said.theirs, said.places);
}

/** A request that the interface description does not cover: raw bytes in or out. */
export async function raw(path: string, init: RequestInit = {}): Promise<Response> {
  const response = await guarded(new Request(path, init));
  if (response.ok) return response;
  throw refusal(response.status, await response.json().catch(() => null));
}
