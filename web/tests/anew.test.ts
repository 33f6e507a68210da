// @vitest-environment happy-dom
import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { describe, expect, it, vi } from "vitest";
import { passes, post } from "../src/api/client";
import { askAnew } from "../src/api/queries";
import { askedFor, serve } from "./wire";

describe("what is asked anew", () => {
  it.each([[[]], [["log"]]])(
    "is so while it is asked for the first time, which was before: %j",
    async (which) => {
      const cache = new QueryClient();
      const answers: ((told: string) => void)[] = [];
      const queryFn = ({ signal }: { signal: AbortSignal }) =>
        new Promise<string>((tell, off) => {
          answers.push(tell);
          signal.addEventListener("abort", () => off(new Error("broken off")));
        });
      const log = new QueryObserver(cache, { queryKey: ["log", "kept"], queryFn, retry: false });
      const leave = log.subscribe(() => {});
      await vi.waitFor(() => expect(answers).toHaveLength(1));
      const anew = askAnew(cache, which);
      await vi.waitFor(() => expect(answers).toHaveLength(2));
      answers[0]?.("none");
      answers[1]?.("one run");
      await anew;
      expect(log.getCurrentResult().data).toBe("one run");
      leave();
    },
  );

  it("is nothing that nobody looks at, nor of another kind", async () => {
    const cache = new QueryClient();
    const queryFn = vi.fn(() => Promise.resolve("told"));
    await cache.prefetchQuery({ queryKey: ["pieces"], queryFn });
    await askAnew(cache, ["log"]);
    await askAnew(cache);
    expect(queryFn).toHaveBeenCalledTimes(1);
  });
});

describe("a page that has no token", () => {
  it("fetches one where it is refused for that, and is told to try again", async () => {
    serve({
      "GET /": "the page",
      "POST /api/runs/1/stop": () => new Response("<h1>403 Forbidden</h1>", { status: 403 }),
    });
    const stopped = post("/api/runs/{key}/stop", { params: { path: { key: 1 } }, body: { at: 1 } });
    const problem: unknown = await stopped.catch((refused: unknown) => refused);
    expect(passes(problem)).toBe(true);
    expect(askedFor("GET /")).toHaveLength(1);
  });
});
