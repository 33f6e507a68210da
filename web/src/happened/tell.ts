/** What was pressed here goes to the server, in its order, until it has it; what others told comes back with the answer. */
import { get, mayComeThrough, post } from "../api/client";
import type { components } from "../api/schema.gen";
import { type KeptEvent, type KeptRun, keepRefused, keepTold, keptRun, runsUnsent, unsentOf } from "./keep";

type ToldEvent = components["schemas"]["Happened"]["events"][number];

const AT_ONCE = 200;
const FIRST_WAIT_MS = 400;
const LONGEST_WAIT_MS = 4_000;
const CLOCKS_AGREE_MS = 250;

/** What the server said of a run. */
export type Answer = {
  /** Whether something is kept here that was not, or is known to the server that was not. */
  news: boolean;
  /** Whether all of what was pressed here was sent along. */
  all: boolean;
  /** How far the server's clock is ahead of ours, ms. */
  aheadMs: number;
};
/** How an exchange ended: with an answer, with none, or with why what was asked is refused. */
export type Exchanged = Answer | "away" | { refused: unknown };

/** Send what is unsent of a run, and take what is new of it. `aheadMs` is what is known of the server's clock. */
export async function exchange(run: number, aheadMs: number): Promise<Exchanged> {
  const kept = await keptRun(run);
  if (!kept) return { news: false, all: true, aheadMs };
  const unsent = await unsentOf(run);
  const some = unsent.slice(0, AT_ONCE);
  try {
    return { ...(await told(kept, some, aheadMs)), all: some.length === unsent.length };
  } catch (problem) {
    if (mayComeThrough(problem)) return "away";
    return some.length > 0 ? oneByOne(kept, some, aheadMs) : { refused: problem };
  }
}

/** Where some were refused: each by itself, so that one that is refused holds none of the others up. */
async function oneByOne(kept: KeptRun, unsent: KeptEvent[], aheadMs: number): Promise<Exchanged> {
  let refused: unknown = null;
  for (const one of unsent) {
    try {
      await told(kept, [one], aheadMs);
    } catch (problem) {
      if (mayComeThrough(problem)) return "away";
      await keepRefused(one.id);
      refused ??= problem;
    }
  }
  return refused === null ? { news: true, all: false, aheadMs } : { refused };
}

async function told(kept: KeptRun, unsent: KeptEvent[], known: number): Promise<Omit<Answer, "all">> {
  const before = Date.now();
  const path = { key: kept.sheet.id };
  const asked = { after: kept.taken, began_ms: kept.sheet.began_ms };
  const events = unsent.map(({ event }) => event as ToldEvent);
  const answer =
    events.length > 0
      ? await post("/api/runs/{key}/events", { params: { path }, body: { ...asked, events } })
      : await get("/api/runs/{key}/events", { params: { path, query: asked } });
  const measured = Math.round(answer.now_ms - (before + Date.now()) / 2);
  // The way there and back is not of the same length each time: clocks that agree well enough are left as they were.
  const aheadMs = Math.abs(measured - known) < CLOCKS_AGREE_MS ? known : measured;
  const news = answer.events.length > 0 || events.length > 0;
  if (news || aheadMs !== known) {
    const sent = unsent.map(({ id }) => id);
    await keepTold(kept.sheet.id, { sent, events: answer.events, taken: answer.taken, aheadMs });
  }
  return { news, aheadMs };
}

/** The channel on which pages of this browser tell one another that more is kept of a run. */
export const PAGES = "eskel-runs";

/** Let every page of this browser look anew at what is kept of a run: this one too, whoever in it follows that run. */
function tellPages(run: number): void {
  const channel = new BroadcastChannel(PAGES);
  channel.postMessage(run);
  channel.close();
}

/** How long to wait before the next try, ms, after so many that failed. */
export const waitAfter = (failed: number): number => Math.min(FIRST_WAIT_MS * 2 ** failed, LONGEST_WAIT_MS);

/** Exchange what was left over of a run; what came with the answer is known here now, and is not told again to who follows the run. */
async function exchangeLeft(run: number): Promise<Exchanged> {
  const ended = await exchange(run, 0);
  if (ended !== "away") tellPages(run);
  return ended;
}

/** Send what was left over from runs that are not open: from before the device died, or was without a server. Tells whether anything was. */
export async function tellLeft(): Promise<boolean> {
  for (let failed = 0, sent = false; ; failed++, sent = true) {
    const runs = await runsUnsent();
    if (runs.length === 0) return sent;
    const ended = await Promise.all(runs.map(exchangeLeft));
    const stuck = ended.every((one) => one !== "away" && !("refused" in one) && !one.news);
    if (stuck) return sent;
    if (!ended.includes("away")) failed = -1;
    else await new Promise((resolve) => setTimeout(resolve, waitAfter(failed)));
  }
}
