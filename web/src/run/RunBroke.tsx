import { type ErrorComponentProps, useNavigate, useParams } from "@tanstack/react-router";
import { stopRun, useRail } from "../api/queries";
import { Button } from "../parts/Button";
import { Broke } from "../shell/Broke";

/** The page of a run that could not be shown: it can be shown again, or stopped. */
export function RunBroke({ error, reset }: ErrorComponentProps) {
  const { run } = useParams({ strict: false });
  return (
    <Broke error={error} reset={reset}>
      <StopUnread run={Number(run)} />
    </Broke>
  );
}

/** A run that cannot be read can still be stopped, so that it does not stand in the rail for ever. */
export function StopUnread({ run }: { run: number }) {
  const rail = useRail();
  const go = useNavigate();
  const entry = rail.data?.entries.find((one) => one.run === run);
  if (!entry) return null;
  const stop = async () => {
    await stopRun({ id: run, position: entry.position });
    await rail.refetch();
    await go({ to: "/work" });
  };
  return (
    <Button className="min-h-16 !px-7 text-[19px]" onClick={() => void stop()}>
      Stop this run
    </Button>
  );
}
