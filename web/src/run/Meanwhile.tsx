/** While a piece cools or lies in the pot: what can be done of another that is on the go. */
import { Link } from "@tanstack/react-router";
import { useRail } from "../api/queries";
import type { RailEntry } from "../api/types";
import { sayMinutes } from "../parts/words";

const WHY: Record<RailEntry["meanwhile"][number]["why"], string> = {
  "no-torch": "needs no torch",
  "same-solder": "takes the solder that comes next here",
};

export function Meanwhile({ run }: { run: number }) {
  const rail = useRail();
  const offered = rail.data?.entries.find((entry) => entry.run === run)?.meanwhile ?? [];
  if (offered.length === 0) return null;
  return (
    <section aria-label="Meanwhile" className="mt-5 max-w-3xl">
      <h2 className="text-[18px] text-quiet">Meanwhile</h2>
      {offered.map((one) => (
        <Link
          key={`${String(one.run)} ${one.why}`}
          to="/run/$run"
          params={{ run: String(one.run) }}
          className="flex min-h-16 items-center gap-4 border-t border-hair py-2 text-[20px] leading-snug hover:bg-sunk"
        >
          <span className="min-w-0 flex-1">
            <b className="font-semibold">{one.piece_name}</b> <span className="line-clamp-2">{one.text}</span>
          </span>
          <span className="shrink-0 text-right text-[16px] text-quiet">
            about {sayMinutes(one.minutes)}
            <span className="block">{WHY[one.why]}</span>
          </span>
        </Link>
      ))}
    </section>
  );
}
