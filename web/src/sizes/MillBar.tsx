import { useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { beginMaking, useMakings } from "../api/queries";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";

/** From a draw-down to the mill: begin to mark its passes off, or go on with one begun before. */
export function MillBar({ sent, sound }: { sent: Record<string, unknown>; sound: boolean }) {
  const makings = useMakings();
  const go = useNavigate();
  const cache = useQueryClient();
  const [error, setError] = useState<unknown>(null);
  const begin = async () => {
    try {
      const made = await beginMaking(sent);
      cache.setQueryData(["making", made.id], made);
      void cache.invalidateQueries({ queryKey: ["makings"] });
      await go({ to: "/mill/$making", params: { making: String(made.id) } });
    } catch (problem) {
      setError(problem);
    }
  };
  const going = (makings.data ?? []).filter((one) => !one.put_away);
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-1 border-t border-hair pt-3 print:hidden">
      <Button disabled={!sound} onClick={() => void begin()}>
        Mark the passes off at the mill
      </Button>
      {going.map((one) => (
        <Link
          key={one.id}
          to="/mill/$making"
          params={{ making: String(one.id) }}
          className="text-[15px] text-accent underline"
        >
          {one.title}: {one.done} of {one.steps.length}
        </Link>
      ))}
      <FaultList error={error} />
    </div>
  );
}
