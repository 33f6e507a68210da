/** What the rehearsal's screens ask for: jobs that take a while, the glow, the bench's own torches. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { get, post, put } from "../api/client";
import type { Habit, Job, PieceView } from "../api/types";

export type Chosen = {
  heat_no: number;
  torch: string | null;
  surface: string | null;
  habit: Habit;
  setting: number;
};
export type Light = "dark" | "dim" | "daylight";

const LOOK_EVERY_MS = 350;
const isUnderWay = (job?: Job) => job?.state === "waiting" || job?.state === "running";

export const FIRST: Chosen = { heat_no: 1, torch: null, surface: null, habit: "best", setting: 1 };

/**
 * A job asked for and looked at until it has ended; nothing is asked while not `wanted`. What is asked for `behind` is
 * worked out after everything that is looked at.
 */
export function useJob(
  view: PieceView,
  kind: "heat" | "help" | "piece",
  chosen: Chosen,
  wanted: boolean,
  { behind = false, every = LOOK_EVERY_MS }: { behind?: boolean; every?: number } = {},
) {
  const cache = useQueryClient();
  const key = ["rehearsal", view.id, view.revision, kind, chosen];
  const asked = useQuery({
    queryKey: key,
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    queryFn: ({ signal }) =>
      post("/api/pieces/{key}/rehearsals", {
        params: { path: { key: view.id } },
        // The room at the torch is dim: so glow is judged.
        body: { kind, ...chosen, light: "dim", behind },
        signal,
      }),
  });
  const looked = useQuery({
    queryKey: ["job", asked.data?.id],
    enabled: isUnderWay(asked.data),
    retry: false,
    refetchInterval: (query) =>
      query.state.data === undefined || isUnderWay(query.state.data) ? every : false,
    queryFn: () => get("/api/rehearsals/{job}", { params: { path: { job: asked.data?.id ?? "" } } }),
  });
  const job = isUnderWay(asked.data) ? (looked.data ?? asked.data) : asked.data;
  const stop = async () => {
    if (!job) return;
    const stopped = await post("/api/rehearsals/{job}/stop", { params: { path: { job: job.id } } });
    cache.setQueryData(["job", job.id], stopped);
  };
  const again = () => {
    void cache.invalidateQueries({ queryKey: key });
  };
  return {
    job,
    error: asked.error ?? looked.error,
    underWay: asked.isFetching || isUnderWay(job),
    stop,
    again,
  };
}

export const copyRehearsal = (view: PieceView, rehearsal: string) =>
  post("/api/pieces/{key}/rehearsals/use", {
    params: { path: { key: view.id } },
    body: { revision: view.revision, rehearsal },
  });

/** The heats whose copied rehearsal was made with other forms than the piece has now. */
export const useStale = (view: PieceView) =>
  useQuery({
    queryKey: ["stale", view.id, view.revision],
    enabled: view.document.rehearsals.length > 0,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => get("/api/pieces/{key}/rehearsals/stale", { params: { path: { key: view.id } } }),
  });

export const useGlow = (light: Light) =>
  useQuery({
    queryKey: ["glow", light],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => get("/api/glow", { params: { query: { light } } }),
  });

export const useTorches = () => useQuery({ queryKey: ["torches"], queryFn: () => get("/api/torches") });

export const leaveHeatOut = (record: number, left_out: boolean) =>
  put("/api/logged-heats/{record}", { params: { path: { record } }, body: { left_out } });
