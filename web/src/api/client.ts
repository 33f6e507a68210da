/** The one way to the server. A refusal becomes a `Refusal` that carries every fault. */
import createClient from "openapi-fetch";
import type { paths } from "./schema.gen";
import type { Fault } from "./types";

const client = createClient<paths>({ baseUrl: "/" });

const FORBIDDEN = 403;
const SAFE = ["GET", "HEAD", "OPTIONS"];

/** The token that the page was given: every change brings it back, so that no other page can make one. */
function token(): string {
  return /(?:^|; )eskel_token=([^;]*)/.exec(document.cookie)?.[1] ?? "";
}

client.use({
  onRequest({ request }) {
    if (!SAFE.includes(request.method)) request.headers.set("X-CSRFToken", token());
    return request;
  },
  // A page that was opened without a server, by a browser that began anew, was given no token: it fetches one for the next try.
  async onResponse({ response }) {
    if (response.status === FORBIDDEN) await fetch("/", { cache: "no-store" }).catch(() => {});
    return undefined;
  },
});

export class Refusal extends Error {
  constructor(readonly faults: Fault[]) {
    super(faults.map(sayFault).join(" "));
  }
}

/** Say a fault in one sentence. */
export function sayFault(fault: Fault): string {
  const where = fault.path ? `${fault.path}: ` : "";
  return `${where}${fault.rule}. ${fault.remedy}`;
}

const UNREACHABLE: Fault = {
  code: "unreachable",
  path: "",
  value: null,
  rule: "Eskel does not answer",
  remedy: "Is bin/demo still running? Nothing that was saved is lost.",
};

const hasCode = (problem: unknown, codes: Set<string>): boolean =>
  problem instanceof Refusal && problem.faults.some((fault) => codes.has(fault.code));

/** Whether a fault is of a server that is away or busy for a while, and not of the request. */
export const passes = (problem: unknown): boolean => hasCode(problem, PASSING);

/** Whether a press may still reach the server: nothing is wrong with it, the server only did not take it now. */
export const mayComeThrough = (problem: unknown): boolean => passes(problem) || hasCode(problem, NOT_NOW);

/** Whether a change was refused because what it was based on has been changed elsewhere. */
export const clashes = (problem: unknown): boolean =>
  problem instanceof Refusal && problem.faults.some((fault) => fault.code === "clash");

const PASSING = new Set(["unreachable", "database-away", "workroom", "busy"]);
const NOT_NOW = new Set(["took-too-long", "no-token"]);

type Method = "get" | "post" | "put" | "delete";
type Operation<P extends keyof paths, M extends Method> = NonNullable<paths[P][M]>;
type JsonOf<R> = R extends { content: { "application/json": infer T } } ? T : never;
type Found<R, Status> = Status extends keyof R ? JsonOf<R[Status]> : never;

/** What a path answers: the path decides, and a wrong name does not compile. */
export type Answer<P extends keyof paths, M extends Method> =
  Operation<P, M> extends { responses: infer R } ? Found<R, 200> | Found<R, 201> : never;

/** The paths that know a method. */
type Paths<M extends Method> = {
  [P in keyof paths]: [Operation<P, M>] extends [never] ? never : P;
}[keyof paths];

type Key<O, K extends string> = O extends Record<K, infer V> ? V : unknown;
type Asked<O> = {
  params?: { path?: Key<Key<O, "parameters">, "path">; query?: Partial<Key<Key<O, "parameters">, "query">> };
  body?: JsonOf<Key<O, "requestBody">>;
  signal?: AbortSignal;
};

type Plainly = (path: string, how?: unknown) => Promise<{ data?: unknown; error?: unknown }>;
const plainly = client as unknown as Record<"GET" | "POST" | "PUT" | "DELETE", Plainly>;

export const get = <P extends Paths<"get">>(path: P, how?: Asked<Operation<P, "get">>) =>
  answered<Answer<P, "get">>(plainly.GET(path, how));
export const post = <P extends Paths<"post">>(path: P, how?: Asked<Operation<P, "post">>) =>
  answered<Answer<P, "post">>(plainly.POST(path, how));
export const put = <P extends Paths<"put">>(path: P, how?: Asked<Operation<P, "put">>) =>
  answered<Answer<P, "put">>(plainly.PUT(path, how));

export const remove = <P extends Paths<"delete">>(path: P, how?: Asked<Operation<P, "delete">>) =>
  answered<undefined>(plainly.DELETE(path, how));

const LONGEST_MS = 60_000;

/** Wait for an answer; give its data or throw a `Refusal`. A server that hangs is told after a minute. */
async function answered<T>(asked: Promise<{ data?: unknown; error?: unknown }>): Promise<T> {
  let clock: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, reject) => {
    clock = setTimeout(reject, LONGEST_MS);
  });
  const { data, error } = await Promise.race([asked, late])
    .catch(() => {
      throw new Refusal([UNREACHABLE]);
    })
    .finally(() => clearTimeout(clock));
  if (error === undefined) return data as T;
  const faults = (error as { faults?: Fault[] } | undefined)?.faults;
  throw new Refusal(faults?.length ? faults : [UNREACHABLE]);
}
