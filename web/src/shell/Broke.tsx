import { useQueryClient } from "@tanstack/react-query";
import { useRouter } from "@tanstack/react-router";
import type { ReactNode } from "react";
import { Button } from "../parts/Button";

type BrokeProps = {
  error: unknown;
  /** Try to show the page again. */
  reset: () => void;
  /** What else can be done here. */
  children?: ReactNode;
};

/** A page that could not be shown: the rail with its timers stays, what was kept is kept, and there is a way on. */
export function Broke({ error, reset, children }: BrokeProps) {
  const router = useRouter();
  const cache = useQueryClient();
  const again = async () => {
    // What it was shown from may be what broke it: it is fetched anew, but for the rail, whose timers go on.
    await cache.resetQueries({ predicate: ({ queryKey }) => queryKey[0] !== "rail" });
    reset();
    await router.invalidate();
  };
  return (
    <div role="alert" className="flex max-w-3xl flex-col items-start gap-5 px-10 py-10">
      <h1 className="text-[30px] leading-tight font-semibold">This page could not be shown.</h1>
      <p className="text-[19px] text-quiet">
        What you pressed and what was saved is kept; timers go on below. The fault is Eskel's own:{" "}
        <span className="figures break-words text-ink">{wordsOf(error)}</span>
      </p>
      <div className="flex flex-wrap gap-3">
        <Button look="main" className="min-h-16 !px-7 text-[19px]" onClick={() => void again()}>
          Show it again
        </Button>
        <Button className="min-h-16 !px-7 text-[19px]" onClick={() => location.assign("/work")}>
          Go to Work
        </Button>
        {children}
      </div>
    </div>
  );
}

const wordsOf = (error: unknown): string =>
  (error instanceof Error ? `${error.name}: ${error.message}` : String(error)).slice(0, 300);
