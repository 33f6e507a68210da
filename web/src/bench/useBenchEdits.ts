/** Changes of the bench, saved one after another; the last ones can be undone while the page is open. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { setBench } from "../api/queries";
import type { Bench, BenchView, HouseOverrides } from "../api/types";

type Own = { house: HouseOverrides; bench: Bench };
export type BenchEdits = {
  apply: (change: (own: Own) => Own) => void;
  undo: (() => void) | undefined;
  error: unknown;
};

export function useBenchEdits(): BenchEdits {
  const cache = useQueryClient();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const [before, setBefore] = useState<Own[]>([]);
  const [error, setError] = useState<unknown>(null);

  /** Change what stands when its turn comes, not what stood when it was asked for. */
  const run = (change: (own: Own) => Own, then: (was: Own) => void) => {
    const carryOut = async () => {
      const view = cache.getQueryData<BenchView>(["bench"]);
      if (!view) return;
      const own = { house: view.own_house, bench: view.own_bench };
      const next = change(own);
      await cache.cancelQueries({ queryKey: ["bench"] });
      cache.setQueryData(["bench"], await setBench(next.house, next.bench));
      // Plans and lists follow from the bench.
      for (const key of ["pieces", "piece", "cutting"]) void cache.invalidateQueries({ queryKey: [key] });
      setError(null);
      then(own);
    };
    queue.current = queue.current.then(carryOut).catch(setError);
  };
  const last = before.at(-1);
  return {
    apply: (change) => run(change, (was) => setBefore((all) => [...all.slice(-49), was])),
    undo:
      last &&
      (() =>
        run(
          () => last,
          () => setBefore((all) => all.slice(0, -1)),
        )),
    error,
  };
}
