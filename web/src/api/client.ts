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

export const client = createClient<paths>({ baseUrl: "/", fetch: watched });

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** What an answer brings, or its problem thrown. */
export function resultOf<T>({ data, error, response }: Answer<T>): T {
  if (response.ok) return data as T;
  const problem = (error ?? {}) as Partial<ProblemDetails>;
  throw new Problem(response.status, problem.detail ?? NO_ANSWER, problem.errors ?? []);
}

type Method = "get" | "put" | "post" | "patch" | "delete";
type Operation = { parameters: unknown; responses: unknown };

/** The operations of a method under a root, by what follows the root in their addresses. */
type Operations<Root extends string, Verb extends Method> = {
  [Path in keyof paths as Path extends `${Root}${infer Rest}`
    ? paths[Path][Verb] extends Operation
      ? Rest
      : never
    : never]: paths[Path][Verb];
};

type PathOf<Called, Known> = Called extends { parameters: { path: infer Path } }
  ? [Exclude<keyof Path, Known>] extends [never]
    ? unknown
    : { path: Omit<Path, Known & keyof Path> }
  : unknown;
type QueryOf<Called> = Called extends { parameters: { query: infer Query } }
  ? { query: Query }
  : Called extends { parameters: { query?: infer Query } }
    ? { query?: Query }
    : unknown;
/** What may not be saved over unseen says which version it stands on. */
type VersionOf<Called> = Called extends { parameters: { header?: infer Header } }
  ? [NonNullable<Header>] extends [never]
    ? unknown
    : { version: number }
  : unknown;
type BodyOf<Called> = Called extends { requestBody: { content: { "application/json": infer Body } } }
  ? { body: Body }
  : unknown;
type Sent<Called, Known> = PathOf<Called, Known> &
  QueryOf<Called> &
  VersionOf<Called> &
  BodyOf<Called> & { signal?: AbortSignal };
type SentOf<Called, Known> = object extends Sent<Called, Known> ? [Sent<Called, Known>?] : [Sent<Called, Known>];
type AnswerOf<Called> = Called extends { responses: infer Answers }
  ? {
      [Status in keyof Answers & (200 | 201 | 202)]: Answers[Status] extends {
        content: { "application/json": infer Body };
      }
        ? Body
        : undefined;
    }[keyof Answers & (200 | 201 | 202)]
  : never;

type Requests<Root extends string, Known> = {
  [Verb in Method]: <Rest extends keyof Operations<Root, Verb>>(
    rest: Rest,
    ...sent: SentOf<Operations<Root, Verb>[Rest], Known>
  ) => Promise<AnswerOf<Operations<Root, Verb>[Rest]>>;
};

interface AnySent {
  path?: object;
  query?: object;
  version?: number;
  body?: unknown;
  signal?: AbortSignal;
}

/** The requests under a root whose path is known: each gives the server's answer, or throws its problem. */
function requests<Root extends string, Known extends object>(root: Root, known: Known) {
  const request =
    (method: Method) =>
    async (rest: string, { path, query, version, ...more }: AnySent = {}) => {
      const header = version === undefined ? {} : { "if-match": `"${version}"` };
      const params = { path: { ...known, ...path }, query: query ?? {}, header };
      // Addresses, and what belongs to each, are held together by the type of what is given back.
      const call = client.request as (...call: unknown[]) => Promise<Answer<unknown>>;
      return resultOf(await call(method, root + rest, { params, ...more }));
    };
  return {
    get: request("get"),
    put: request("put"),
    post: request("post"),
    patch: request("patch"),
    delete: request("delete"),
  } as Requests<Root, keyof Known>;
}

const ROOT = "/api/v1";
const WORKSPACE = `${ROOT}/workspaces/{workspace_id}` as const;

export const api = requests(ROOT, {});
export const apiOfWorkspace = (workspace_id: string) => requests(WORKSPACE, { workspace_id });
export const apiOfSite = (workspace_id: string, site_id: string) =>
  requests(`${WORKSPACE}/sites/{site_id}` as const, { workspace_id, site_id });
