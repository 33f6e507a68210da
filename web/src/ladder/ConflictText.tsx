import type { Plan } from "../api/types";

/** Why there is no plan: the demands that cannot all be met, and a way out of each. */
export function ConflictText({ conflict }: { conflict: NonNullable<Plan["conflict"]> }) {
  return (
    <div className="max-w-3xl py-6" role="alert">
      <p className="text-[28px] font-semibold">No plan is possible.</p>
      <p className="mt-1 text-[17px] text-quiet">
        {conflict.demands.length > 1
          ? "These demands cannot all be met. Letting any one of them go makes a plan possible."
          : "This cannot be met."}
      </p>
      <ol className="mt-5 border-t border-hair">
        {conflict.demands.map((demand) => (
          <li key={`${demand.code}-${demand.ids.join()}`} className="border-b border-hair py-3">
            <p className="text-[19px] font-semibold">{demand.text}</p>
            <p className="text-[16px] text-quiet">{demand.remedy}</p>
          </li>
        ))}
      </ol>
    </div>
  );
}
