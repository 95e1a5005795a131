/** Talking to the server by the paths that it publishes, with one kind of failure. */
import createClient from "openapi-fetch";
import type { components, paths } from "./types";

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
  const session = await answered(api.GET("/api/session"));
  rememberCsrf(session.csrf);
  return session;
}

/** Each request carries the page's token; none waits for anything before it goes out. */
export const api = createClient<paths>({
  fetch: (request) => {
    request.headers.set("X-CSRFToken", csrf);
    return fetch(request);
  },
});

interface Told<T> {
  data?: T;
  response: Response;
}

/** What the server answers; an ApiFailure where it refuses or does not answer. An aborted question stays aborted. */
export async function answered<T>(asked: Promise<Told<T>>): Promise<T> {
  let told: Told<T>;
  try {
    told = await asked;
  } catch (failure) {
    if (failure instanceof DOMException && failure.name === "AbortError") throw failure;
    throw new ApiFailure(0, "away", "The server does not answer.");
  }
  if (told.response.ok) return told.data as T;
  throw failureOf(told.response.status, "error" in told ? told.error : undefined);
}

/** What a plain answer that is not as wished tells. */
export async function asFailure(response: Response): Promise<ApiFailure> {
  const told: unknown = await response.json().catch(() => undefined);
  return failureOf(response.status, told);
}

function failureOf(status: number, told: unknown): ApiFailure {
  if (typeof told !== "object" || told === null || !("message" in told))
    return new ApiFailure(status, "unreadable", "The server's answer could not be read.");
  const { error, message, issues, conflict } = told as Schemas["ErrorOut"];
  return new ApiFailure(status, error, message, issues, conflict ?? null);
}

/** The serializer for a body that is sent as it is: a file's text. */
export function asIs(text: string): string {
  return text;
}

/** What sends a file as it is, under its own kind. */
export function ofFile(file: Blob) {
  return { body: file as unknown as string, bodySerializer: asIs, headers: { "Content-Type": file.type } };
}
