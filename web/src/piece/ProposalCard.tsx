import type { PieceDocument } from "../api/types";
import { baseId, titleOf } from "../document/edit";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { ActionKey } from "../shell/ActionKey";
import type { Pointing } from "./usePointing";

const WORDS: Record<string, string> = {
  kind: "Kind",
  holds: "Held",
  bound_with: "Bound with",
  face: "On the",
  placing: "Solder",
  encloses: "Closes",
  after: "After",
  structural: "Load",
  visible: "Sight",
  through: "Through",
  at: "Where",
};

/** What is to be pointed at next, or the join that is proposed, with a reason for each choice. */
export function ProposalCard({ pointing, document }: { pointing: Pointing; document: PieceDocument }) {
  const { first, proposed, error } = pointing;
  const name = (id: string) =>
    titleOf(document.parts.find((part) => part.id === baseId(id)) ?? { id, name: "" });
  if (!pointing.letters && !proposed) return null;
  return (
    <section aria-label="Join by pointing" className="shrink-0 border-t-2 border-accent bg-raised px-5 py-3">
      {proposed ? (
        <>
          <p className="text-[19px] font-semibold">
            {proposed.join.name}
            <span className="ml-3 text-[16px] font-normal text-quiet">
              {[...new Set(proposed.join.between)].map(name).join(" and ")}
            </span>
          </p>
          <dl className="mt-1 grid grid-cols-[92px_1fr] gap-x-3 text-[15px] leading-snug">
            {Object.entries(proposed.why).map(([key, why]) => (
              <div key={key} className="contents">
                <dt className="text-quiet">{WORDS[key] ?? key}</dt>
                <dd>
                  <b className="font-semibold">
                    {said(proposed.join[key as keyof typeof proposed.join], name)}
                  </b>
                  <span className="text-quiet"> {why}</span>
                </dd>
              </div>
            ))}
          </dl>
          <div className="mt-3 flex gap-3">
            <Button look="main" onClick={pointing.take}>
              Join them <ActionKey of="point.take" plain />
            </Button>
            <Button onClick={pointing.begin}>Point again</Button>
            <Button look="bare" onClick={pointing.stop}>
              Leave it <ActionKey of="point.leave" plain />
            </Button>
          </div>
        </>
      ) : (
        <div className="flex items-center gap-4">
          <p className="flex-1 text-[17px]">
            {first === null ? (
              "Point at a part: click it, or type its letter."
            ) : (
              <>
                <b className="font-semibold">{name(first)}</b> with which other? The same again closes it on
                itself.
              </>
            )}
          </p>
          <Button look="bare" onClick={pointing.stop}>
            Leave it <ActionKey of="point.leave" plain />
          </Button>
        </div>
      )}
      <FaultList error={error} />
    </section>
  );
}

function said(value: unknown, name: (id: string) => string): string {
  if (value === true) return "yes:";
  if (Array.isArray(value))
    return value.map((one) => (typeof one === "string" ? name(one) : String(one))).join(", ");
  return value === "hand" ? "by hand" : String(value ?? "").replace(/-/g, " ");
}
