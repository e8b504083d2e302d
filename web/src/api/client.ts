import { MutationCache, QueryCache, QueryClient } from "@tanstack/react-query";
import createClient from "openapi-fetch";
import { hearsItself } from "@/api/live";
import { onceEach } from "@/api/retry";
import type { paths } from "@/api/schema";
import type { Problem } from "@/api/types";

export const api = createClient<paths>({ baseUrl: window.location.origin });
api.use(onceEach(), hearsItself());

/** What the server refused, in its own words; `errors` point at fields. */
export class Refused extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }

  /** The first sentence for a field or anything within it, by its JSON pointer. */
  at(pointer: string): string | undefined {
    return this.problem.errors?.find((e) => `${e.pointer}/`.startsWith(`${pointer}/`))?.detail;
  }
}

const AWAY: Problem = {
  status: 0,
  code: "away",
  detail:
    "Elderberry does not answer just now. What was recorded is safe; this entry is sent again by itself.",
};

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The body of a good answer; a problem otherwise. An empty-bodied failure is one too. */
export async function body<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asked;
  } catch {
    throw new Refused(AWAY);
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Problem | undefined;
  throw new Refused(problem?.detail ? problem : { ...AWAY, status: answer.response.status });
}

/** Only what may work later is tried again: no answer, or a store that is coming back. */
export function worthRetrying(failures: number, error: Error): boolean {
  const status = error instanceof Refused ? error.problem.status : 500;
  return (status === 0 || status >= 502) && failures < 8;
}

function signedOut(error: Error): void {
  if (error instanceof Refused && error.problem.status === 401) {
    void queryClient.invalidateQueries({ queryKey: ["session"] });
  }
}

export const queryClient: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError: signedOut }),
  mutationCache: new MutationCache({ onError: signedOut }),
  defaultOptions: {
    queries: { retry: worthRetrying, staleTime: 5_000, networkMode: "always" },
    mutations: { retry: worthRetrying, retryDelay: 1_500, networkMode: "always" },
  },
});
