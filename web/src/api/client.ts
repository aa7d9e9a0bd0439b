import createClient from "openapi-fetch";
import { BASE } from "./base";
import { DEVICE } from "./device";
import { answered, nameOf } from "./once";
import type { components, operations, paths } from "./schema";
import { who } from "./who";

export type Schemas = components["schemas"];
export type Verdict = Schemas["StationView"]["verdict"];
/** What most of the interface is about, by the names it uses. */
export type Job = Schemas["JobView"];
export type Standing = Schemas["StandingView"];
export type LineState = Schemas["LineState"];
export type Trace = Schemas["TraceView"];
export type Station = Schemas["StationDetail"];
export type Hookup = Schemas["HookupView"];
export type Before = Schemas["BeforeView"];
/** Kinds of entries that have a history. */
export type Kept = NonNullable<
  NonNullable<operations["history_api_jobs__job_id__history_get"]["parameters"]["query"]>["kind"]
>;
export type Units = Schemas["JobView"]["units"];

export const api = createClient<paths>({
  baseUrl: `${BASE}/`,
  headers: { "X-Vessel-Device": encodeURIComponent(DEVICE) },
});

api.use({
  async onRequest({ request }) {
    if (who()) request.headers.set("X-Vessel-Who", encodeURIComponent(who()));
    if (request.method === "POST") request.headers.set("X-Vessel-Post", await nameOf(request));
    return request;
  },
  onResponse({ request }) {
    answered(request);
  },
});

/** What the server refused, or that it could not be reached: always a sentence, a field and a fix. */
export class Refusal extends Error {
  constructor(
    readonly field: string,
    message: string,
    readonly fix: string,
    readonly code: string,
  ) {
    super(message);
  }

  /** What is wrong and how to put it right, as one text. */
  get text(): string {
    return `${this.message} ${this.fix}`.trim();
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Unwrap an answer; throw a Refusal otherwise. */
export async function take<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Refusal(
      "",
      "Vessel's server does not answer.",
      "Nothing you typed is lost: check that it runs, then try again.",
      "offline",
    );
  }
  // signed out meanwhile: what is typed is kept as a draft, and this page comes back after signing in
  if (answer.response.status === 401) window.location.reload();
  if (!answer.response.ok) {
    const body = answer.error as Partial<Schemas["ErrorBody"]> | undefined;
    throw new Refusal(
      body?.field ?? "",
      body?.message ?? `The server answered ${answer.response.status}.`,
      body?.fix ?? "Try again.",
      body?.code ?? "failed",
    );
  }
  return answer.data as T;
}

export const asRefusal = (e: unknown): Refusal =>
  e instanceof Refusal
    ? e
    : new Refusal("", "Something went wrong in the interface.", "Try again.", "failed");
