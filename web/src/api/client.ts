import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Shape = components["schemas"];
export type Problem = Shape["Problem"];

function cookie(name: string): string {
  const pair = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return pair ? decodeURIComponent(pair.slice(name.length + 1)) : "";
}

export const api = createClient<paths>({ baseUrl: "/" });

api.use({
  onRequest({ request }) {
    request.headers.set("X-CSRFToken", cookie("__Host-csrftoken") || cookie("csrftoken"));
    return request;
  },
});

/** A refusal of the server, with its sentences. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer; throws a Refusal for a problem and an Error when nothing sensible came. */
export async function taken<T>(asked: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await asked;
  if (data !== undefined) return data;
  const problem = error as Partial<Problem> | undefined;
  if (problem?.detail && response.status < 500) throw new Refusal(problem as Problem);
  throw new Error(problem?.detail ?? "The server did not answer as it should.");
}

/** The sentence for one field of a refusal, or "" . */
export function fieldSentence(problem: Problem | null, field: string): string {
  return problem?.errors.find((error) => error.pointer === `/${field}`)?.detail ?? "";
}

/** The problem of a refusal, with its sentences; null for any other fault, or none. */
export function problemOf(error: Error | null): Problem | null {
  return error instanceof Refusal ? error.problem : null;
}

/** Deleting answers with nothing; a refusal still has its sentence. */
export async function gone(asked: Promise<{ error?: unknown; response: Response }>): Promise<true> {
  const { error, response } = await asked;
  await taken(Promise.resolve({ data: response.ok ? true : undefined, error, response }));
  return true;
}
