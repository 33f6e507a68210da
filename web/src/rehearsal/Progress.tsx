import type { Job } from "../api/types";
import { Button } from "../parts/Button";

/** How far a rehearsal is, and a way to stop it. */
export function Progress({ job, onStop }: { job: Job; onStop: () => void }) {
  return (
    <div className="flex max-w-xl items-center gap-4 py-2" role="status" aria-label="Rehearsing">
      <div className="min-w-0 flex-1">
        <p className="truncate text-[16px] text-quiet">Rehearsing: {job.what}…</p>
        <progress className="mt-1 h-2 w-full accent-[var(--accent)]" max={1} value={job.share} />
      </div>
      <Button look="bare" onClick={onStop}>
        Stop
      </Button>
    </div>
  );
}
