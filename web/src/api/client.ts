import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Shape = components["schemas"];
export type Problem = Shape["Problem"];

function cookie(name: string): string {
  const pair = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return pair ? decodeURIComponent(pair.slice(name.length + 1)) : "";
}

// without a byte for so long nobody answers any more, ms; what is sent up, and what is worked out for
// one, may take its time
const SILENCE = 10_000;
const LONG = 40_000;
const SLOWEST = 50; // bytes a millisecond that a poor network carries up
const WORKED_OUT = /\/api\/(bikes\/[^/]+\/plan|calendar)\/$/;

/** Lets whoever is signed in type their password again; whether they did. The house puts its own in. */
export const proof = { ask: (): Promise<boolean> => Promise.resolve(false) };

async function wantsProof(answer: Response): Promise<boolean> {
  if (answer.status !== 403) return false;
  const said = (await answer
    .clone()
    .json()
    .catch(() => null)) as Partial<Problem> | null;
  return said?.code === "access.prove";
}

let typing: Promise<boolean> | null = null;

/** Whoever asks for it while it is being typed waits for the same. */
function typedAgain(): Promise<boolean> {
  typing ??= proof.ask().finally(() => (typing = null));
  return typing;
}

/** Asks; where the password is wanted again, asks for it and then once more. */
async function asked(request: Request): Promise<Response> {
  const { url, method, headers, credentials, signal } = request;
  const read = method === "GET" ? null : await request.arrayBuffer();
  const body = read?.byteLength ? read : null;
  // whole each time: a body that was copied on its way is a stream, which not every network carries
  const patience = (WORKED_OUT.test(url) ? LONG : SILENCE) + (body ? body.byteLength / SLOWEST : 0);
  const again = () =>
    heard(new Request(url, { method, headers, credentials, signal, body }), patience);
  const answer = await again();
  return (await wantsProof(answer)) && (await typedAgain()) ? again() : answer;
}

/** Asks, and gives up where nothing is heard: a network that swallows everything says so by silence. */
async function heard(request: Request, patience: number): Promise<Response> {
  const gaveUp = new AbortController();
  const over = setTimeout(() => gaveUp.abort(), patience);
  const giveUp = () => gaveUp.abort();
  request.signal.addEventListener("abort", giveUp);
  try {
    return await fetch(request, { signal: gaveUp.signal });
  } catch (error) {
    if (gaveUp.signal.aborted && !request.signal.aborted) {
      throw new Error("Nothing was heard for a while. It is tried again, or try it yourself.", {
        cause: error,
      });
    }
    throw error;
  } finally {
    clearTimeout(over);
    request.signal.removeEventListener("abort", giveUp);
  }
}

export const api = createClient<paths>({ baseUrl: "/", fetch: asked });

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
