/** Talking to the server: one function, one kind of failure. */
import type { components } from "./types";

export type Schemas = components["schemas"];
export type Session = Schemas["SessionOut"];
export type Issue = Schemas["IssueOut"];
export type Conflict = Schemas["ConflictOut"];

/** A refusal by the server; status 0 means that it could not be reached. */
export class ApiFailure extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly issues: Issue[] = [],
    readonly conflict: Conflict | null = null,
  ) {
    super(message);
  }

  /** The server or its database is away; trying again later may help. */
  get away(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503;
  }
}

/** What to tell a person of a failure of any kind. */
export function messageOf(failure: unknown): string {
  return failure instanceof Error ? failure.message : "Something went wrong.";
}

let csrf = "";

export function rememberCsrf(token: string): void {
  csrf = token;
}

/** Ask who is signed in and take the new token of the page. */
export async function renewSession(): Promise<Session> {
  const session = await call<Session>("GET", "/session");
  rememberCsrf(session.csrf);
  return session;
}

type Method = "GET" | "POST" | "PUT" | "DELETE";

export async function call<T>(method: Method, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const text = typeof body === "string" ? body : body === undefined ? undefined : JSON.stringify(body);
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      body: text,
      signal,
      headers: { "X-CSRFToken": csrf, ...(text === undefined ? {} : { "Content-Type": "application/json" }) },
    });
  } catch (failure) {
    if (signal?.aborted) throw failure;
    throw new ApiFailure(0, "away", "The server does not answer.");
  }
  if (response.ok) return (await response.json()) as T;
  throw await failureOf(response);
}

async function failureOf(response: Response): Promise<ApiFailure> {
  try {
    const told = (await response.json()) as Schemas["ErrorOut"];
    return new ApiFailure(response.status, told.error, told.message, told.issues, told.conflict ?? null);
  } catch {
    return new ApiFailure(response.status, "unreadable", "The server's answer could not be read.");
  }
}
