import createClient from "openapi-fetch";
import { reached, unreachable } from "@/app/connection";
import { t } from "@/texts/api";
import type { FieldError, ProblemDetails, paths } from "./schema.gen";

/** What the server answered instead of a result; `outage` when it could not be asked at all. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly errors: FieldError[] = [],
  ) {
    super(detail);
  }
  get outage() {
    return this.status === 0 || this.status === 503;
  }
  /** The sentences by field path. */
  get byField(): Record<string, string> {
    return Object.fromEntries(this.errors.map((error) => [error.field, error.detail]));
  }
}

const NO_ANSWER = t("theServerDoesNotAnswerNothing");

async function watched(request: Request): Promise<Response> {
  try {
    const response = await fetch(request);
    if (response.status === 503) unreachable();
    else reached();
    return response;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    unreachable();
    throw new Problem(0, NO_ANSWER);
  }
}

export const api = createClient<paths>({ baseUrl: "/", fetch: watched });

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The result of a call, or its problem thrown. */
export async function result<T>(call: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await call;
  if (response.ok) return data as T;
  const problem = (error ?? {}) as Partial<ProblemDetails>;
  throw new Problem(response.status, problem.detail ?? NO_ANSWER, problem.errors ?? []);
}
