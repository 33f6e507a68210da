/** Actions on a run: one at a time, each answered by the run as it then stands; asked again while the server is away. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { passes } from "../api/client";
import type { RunView } from "../api/types";

type Step = () => Promise<RunView | undefined>;
export type Actions = {
  /** Carry a key's action out, unless the last one is still on its way: a key pressed twice counts once. */
  act: (step: Step) => void;
  /** Carry something out after what is still on its way: what was written is never let go. */
  take: (step: Step) => void;
  /** Whether an answer is waited for while the server is away. */
  away: boolean;
  error: unknown;
};

export function useActions(key: number): Actions {
  const cache = useQueryClient();
  const busy = useRef(false);
  const [error, setError] = useState<unknown>(null);
  const send = useMutation({
    scope: { id: `run-${String(key)}` },
    networkMode: "always",
    retry: (_, problem) => passes(problem),
    retryDelay: (tries) => Math.min(500 * 2 ** tries, 4_000),
    mutationFn: (step: Step) => step(),
    onSuccess: (made) => {
      if (made) cache.setQueryData(["run", key], made);
      setError(null);
    },
    onError: (problem) => {
      setError(problem);
      void cache.invalidateQueries({ queryKey: ["run", key] });
    },
    onSettled: () => {
      busy.current = false;
      void cache.invalidateQueries({ queryKey: ["rail"] });
      void cache.invalidateQueries({ queryKey: ["log"] });
    },
  });
  const act = (step: Step) => {
    if (busy.current) return;
    busy.current = true;
    send.mutate(step);
  };
  return { act, take: (step) => send.mutate(step), away: send.isPending && send.failureCount > 0, error };
}
