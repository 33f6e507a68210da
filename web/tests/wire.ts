/** The wire between the application and a server that answers what a test told it to. */
import answers from "../../tests/shared/answers.json";

/** What was asked: its method, its path with its query, and the body where there is one. */
export type Asked = { method: string; path: string; body: unknown };
/** An answer, or how one is found; a `Refused` is told as the server tells refusals. */
export type Told = unknown | ((asked: Asked) => unknown);

export class Refused {
  constructor(
    readonly code: string,
    readonly status = 422,
    readonly path = "",
    readonly rule = "it can be done",
    readonly remedy = "Do something else.",
  ) {}
}

/** A real answer of the demo's server, as it was written down; a test may change it. */
export function recorded<T = unknown>(question: keyof typeof answers): T {
  return structuredClone(answers[question]) as T;
}

const EVERYWHERE: Record<string, Told> = {
  "GET /api/tables": () => recorded("GET /api/tables"),
  "GET /api/bench": () => recorded("GET /api/bench"),
  "GET /api/log/minutes": [],
  "GET /api/runs/1/photos": [],
  "GET /api/runs/1/kin": { before: null, after: null },
  "GET /api/findings": [],
  "GET /api/pot": () => recorded("GET /api/pot"),
  "GET /api/rail": { now: "2026-02-01T09:00:00Z", page: "", entries: [] },
};

let told: Record<string, Told> = EVERYWHERE;
let asked: Asked[] = [];

/** Serve these answers, by method and path, beside what every screen asks for; give the list of what is asked. */
export function serve(own: Record<string, Told>): Asked[] {
  told = { ...EVERYWHERE, ...own };
  asked = [];
  return asked;
}

/** The requests of a method and path among those made. */
export const askedFor = (question: string): Asked[] =>
  asked.filter(({ method, path }) => `${method} ${path.split("?")[0] ?? ""}` === question);

export async function answer(request: Request): Promise<Response> {
  const { pathname, search } = new URL(request.url);
  const text = await request.text();
  const now: Asked = {
    method: request.method,
    path: pathname + search,
    body: text ? JSON.parse(text) : undefined,
  };
  asked.push(now);
  const found = told[`${now.method} ${now.path}`] ?? told[`${now.method} ${pathname}`];
  const made = await (typeof found === "function" ? found(now) : found);
  if (made === undefined) return refusal(new Refused("not-found", 404, pathname));
  if (made instanceof Response) return made;
  return made instanceof Refused ? refusal(made) : Response.json(made);
}

function refusal({ code, status, path, rule, remedy }: Refused): Response {
  return Response.json({ faults: [{ code, path, value: null, rule, remedy }] }, { status });
}
