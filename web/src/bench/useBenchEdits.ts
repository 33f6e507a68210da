/** Changes of the bench, saved one after another; the last ones can be undone while the page is open. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { passes } from "../api/client";
import { setBench } from "../api/queries";
import type { Bench, BenchView, HouseOverrides } from "../api/types";

type Own = { house: HouseOverrides; bench: Bench };
type Change = (own: Own) => Own;
export type BenchEdits = {
  /** Change the bench; `what` is changed, in words. */
  apply: (what: string, change: Change) => void;
  undo: (() => void) | undefined;
  /** What would be undone. */
  undoWhat: string | undefined;
  error: unknown;
};

export function useBenchEdits(): BenchEdits {
  const cache = useQueryClient();
  const [before, setBefore] = useState<{ what: string; own: Own }[]>([]);
  const [error, setError] = useState<unknown>(null);
  const send = useMutation({
    scope: { id: "bench" },
    networkMode: "always",
    retry: (_, problem) => passes(problem),
    /** Change what stands when its turn comes, not what stood when it was asked for. */
    mutationFn: async ({ change }: { change: Change; kept: (was: Own) => void }) => {
      const view = cache.getQueryData<BenchView>(["bench"]);
      if (!view) throw new Error("the bench is not open");
      const own = { house: view.own_house, bench: view.own_bench };
      const next = change(own);
      await cache.cancelQueries({ queryKey: ["bench"] });
      return { own, made: await setBench(view.revision, next.house, next.bench) };
    },
    onSuccess: ({ own, made }, { kept }) => {
      cache.setQueryData(["bench"], made);
      // Plans and lists follow from the bench.
      for (const key of ["pieces", "piece", "cutting", "pot"])
        void cache.invalidateQueries({ queryKey: [key] });
      setError(null);
      kept(own);
    },
    onError: (problem) => {
      setError(problem);
      return cache.invalidateQueries({ queryKey: ["bench"] });
    },
  });
  const last = before.at(-1);
  return {
    apply: (what, change) =>
      send.mutate({ change, kept: (own) => setBefore((all) => [...all.slice(-49), { what, own }]) }),
    undo:
      last &&
      (() => send.mutate({ change: () => last.own, kept: () => setBefore((all) => all.slice(0, -1)) })),
    undoWhat: last?.what,
    error,
  };
}
