import { useEffect, useRef, useState } from "react";
import type { Plan } from "../api/types";
import { planChanges } from "../document/changes";
import { Button } from "../parts/Button";

export type ChangesBarProps = { plan: Plan };

/** What the last change did to the plan; it stays until it is put aside or another change says otherwise. */
export function ChangesBar({ plan }: ChangesBarProps) {
  const last = useRef(plan);
  const [told, setTold] = useState<string[]>([]);
  useEffect(() => {
    if (last.current === plan) return;
    const changes = planChanges(last.current, plan);
    last.current = plan;
    if (changes.length > 0) setTold(changes);
  }, [plan]);
  if (told.length === 0) return null;
  return (
    <div
      role="status"
      aria-label="What changed"
      className="fixed right-0 bottom-14 left-[92px] z-10 flex items-center gap-4 border-t border-accent bg-accent-soft px-7 py-1.5 text-[15px] print:hidden"
    >
      <p className="min-w-0 flex-1">
        <b className="font-semibold">The plan changed.</b> {told.slice(0, 6).join(" ")}
        {told.length > 6 && ` And ${String(told.length - 6)} more.`}
      </p>
      <Button look="bare" className="!min-h-8 px-2" onClick={() => setTold([])}>
        Good
      </Button>
    </div>
  );
}
