/** The shelf: finished findings, how many of each are left, and from which run they are. */
import { useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { countFinding, takeFindingAway, useFindings } from "../api/queries";
import type { FindingView } from "../api/types";
import { Small } from "../drawing/Finding";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { NumberField } from "../parts/Field";

export function ShelfSection() {
  const cache = useQueryClient();
  const asked = useFindings();
  const [refused, setRefused] = useState<unknown>(null);
  const attempt = async (work: () => Promise<unknown>) => {
    setRefused(null);
    await work().catch(setRefused);
    await cache.invalidateQueries({ queryKey: ["findings"] });
  };
  return (
    <section aria-label="Shelf" className="mt-8">
      <h2 className="text-[17px] font-semibold">Shelf of finished findings</h2>
      <FaultList error={refused ?? asked.error} />
      {asked.data?.length === 0 && (
        <p className="text-[14px] text-quiet">
          Empty. When a run is over, what it made can be put here; a piece takes it with its joins as they
          are.
        </p>
      )}
      <ul className="mt-1">
        {asked.data?.map((finding) => (
          <Row key={finding.id} finding={finding} attempt={attempt} />
        ))}
      </ul>
    </section>
  );
}

type RowProps = { finding: FindingView; attempt: (work: () => Promise<unknown>) => Promise<void> };

function Row({ finding, attempt }: RowProps) {
  const count = (left: number) => {
    if (left !== finding.left) void attempt(() => countFinding(finding, left));
  };
  return (
    <li className="flex items-center gap-4 border-b border-hair py-2">
      <Small finding={finding} />
      <span className="min-w-0 flex-1">
        <b className="block truncate font-semibold">{finding.name}</b>
        <span className="text-[14px] text-quiet">
          {finding.parts.join(", ")}
          {finding.run !== null && (
            <>
              {" · "}
              <Link to="/log/$run" params={{ run: String(finding.run) }} className="text-accent underline">
                its run
              </Link>
            </>
          )}
        </span>
      </span>
      <div className="w-24">
        <NumberField label="left" whole value={finding.left} onCommit={count} />
      </div>
      <Button
        look="bare"
        aria-label={`Take ${finding.name} off the shelf`}
        onClick={() => void attempt(() => takeFindingAway(finding.id))}
      >
        ×
      </Button>
    </li>
  );
}
