/** The one way to the server. A refusal becomes a `Refusal` that carries every fault. */
import createClient from "openapi-fetch";
import type { paths } from "./schema.gen";
import type { Fault } from "./types";

export const client = createClient<paths>({ baseUrl: "/" });

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

/**
 * Wait for an answer; give its data or throw a `Refusal`. The caller names the type: the client's own
 * inference forgets that a point is a pair of numbers.
 */
export async function answer<T>(asked: Promise<{ data?: unknown; error?: unknown }>): Promise<T> {
  const { data, error } = await asked.catch(() => {
    throw new Refusal([UNREACHABLE]);
  });
  if (data !== undefined && error === undefined) return data as T;
  const faults = (error as { faults?: Fault[] } | undefined)?.faults;
  throw new Refusal(faults?.length ? faults : [UNREACHABLE]);
}
