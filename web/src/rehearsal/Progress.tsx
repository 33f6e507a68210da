import type { Job } from "../api/types";
import { Button } from "../parts/Button";

/** How far a rehearsal is, and a way to stop it. */
export function Progress({ job, onStop }: { job: Job; onStop: () => void }) {
  return (
    <div className="flex max-w-xl items-center gap-4 py-2" role="status" aria-label="Rehearsing">
      <div className="min-w-0 flex-1">
        <p className="truncate text-[16px] text-quiet">Rehearsing: {job.what}…</p>
        <div
          className="mt-1 h-2.5 w-full overflow-hidden rounded-full border border-hair bg-sunk"
          role="progressbar"
          aria-label="How far it is"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(100 * job.share)}
        >
          <div className="h-full bg-[var(--accent)]" style={{ width: `${100 * job.share}%` }} />
        </div>
      </div>
      <Button look="bare" onClick={onStop}>
        Stop
      </Button>
    </div>
  );
}
