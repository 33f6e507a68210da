import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Job, PieceView } from "../api/types";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { VERDICTS } from "./Compare";
import { Progress } from "./Progress";
import { copyRehearsal, FIRST, useJob } from "./queries";

type Whole = NonNullable<Job["whole"]>;

/** Every heat of the piece in one go, on its own bench: rehearsed, copied in as one change, and planned again by it. */
export function WholePiece({ view }: { view: PieceView }) {
  const cache = useQueryClient();
  const [wanted, setWanted] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const asked = useJob(view, "piece", FIRST, wanted);
  const { job } = asked;
  const copy = async () => {
    if (!job) return;
    try {
      setError(null);
      cache.setQueryData(["piece", view.id], await copyRehearsal(view, job.id));
      setWanted(false);
    } catch (problem) {
      setError(problem);
    }
  };
  const stop = async () => {
    await asked.stop();
    setWanted(false);
  };
  return (
    <div className="ml-auto flex flex-wrap items-center justify-end gap-x-3 text-[15px]">
      {!wanted && (
        <Button look="bare" onClick={() => setWanted(true)}>
          Rehearse all heats
        </Button>
      )}
      {wanted && asked.underWay && job && (
        <div className="w-[19rem]">
          <Progress job={job} onStop={() => void stop()} />
        </div>
      )}
      {wanted && job?.whole && (
        <>
          <p role="status">{inWords(job.whole)}</p>
          <Button look="main" onClick={() => void copy()}>
            Use them all
          </Button>
        </>
      )}
      {wanted && job?.state === "failed" && (
        <p role="alert">
          They came to no end: {job.faults[0]?.rule ?? job.what}.{" "}
          <Button onClick={asked.again}>Try again</Button>
        </p>
      )}
      <FaultList error={error ?? (wanted ? asked.error : null)} />
    </div>
  );
}

/** How many heats are sure, with care, by luck or never; and whether the plan agrees with what was rehearsed. */
function inWords(whole: Whole): string {
  const counted = Object.entries(VERDICTS)
    .map(([verdict, told]) => ({ told, many: whole.heats.filter((one) => one.verdict === verdict).length }))
    .filter(({ many }) => many > 0)
    .map(({ told, many }) => `${String(many)} ${told.words}`);
  const agreed = whole.agreed ? "" : " Plan and rehearsal never agree: it stands without what they credit.";
  return `All heats: ${counted.join(", ")}.${agreed}`;
}
