/** What can be done where something went wrong: asked of the server, which knows the work as it stands. */
import { useQuery } from "@tanstack/react-query";
import { post } from "../api/client";
import type { Offers } from "../api/types";
import type { RunHere } from "../happened/follow";

/** The offers at the turn at hand; `waiting` while they are on their way, or the server is away. */
export type AtHand = { offers: Offers["offers"]; known: Offers | null; waiting: boolean };
const NONE: Offers["offers"] = [];

/** Why the step at hand must not be done to the work as it stands; `waiting` while the server is asked. */
export type NeverHere = { never: Offers["never"]; waiting: boolean };

/** Ask where the run went otherwise than its plan, before the step is begun; a server that is away is not waited for. */
export function useNever({ view, turn, unsent, away }: RunHere): NeverHere {
  const begun = turn.signs.length > 0 || turn.off_ms !== null || turn.outcomes.length > 0;
  // A look does nothing to the work.
  const asks = !begun && !away && view.step.kind !== "inspect" && otherwise(view) !== "";
  const found = useQuery({
    queryKey: ["run", "never", view.id, view.turn, otherwise(view)],
    enabled: asks && unsent === 0,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      post("/api/runs/{key}/offers", { params: { path: { key: view.id } }, body: { turn: view.turn } }),
  });
  return {
    never: begun ? [] : (found.data?.never ?? []),
    waiting: asks && found.isPending && !found.isError,
  };
}

/** What went otherwise than the plan has it: steps left out or done again, words that are not sound, what was lost. */
function otherwise({ records, words }: RunHere["view"]): string {
  const sound = new Set<string>(words.filter((word) => word.sound).map(({ outcome }) => outcome));
  return records
    .filter(
      ({ skipped, again, lost, outcomes }) =>
        skipped || again > 1 || lost > 0 || outcomes.some(({ outcome }) => !sound.has(outcome)),
    )
    .map(({ turn }) => turn)
    .join();
}

/** Ask once all that was pressed is on the server: what is offered follows from it. */
export function useOffers({ view, turn, unsent, away }: RunHere, wrong: boolean): AtHand {
  const said = [turn.outcomes, turn.looks, turn.opened, turn.measures].flat().map(({ event }) => event);
  const words = view.records.flatMap(({ outcomes }) =>
    outcomes.map(({ join, outcome }) => `${join} ${outcome}`),
  );
  const found = useQuery({
    queryKey: ["run", "offers", view.id, view.turn, said.join(), words.join()],
    enabled: wrong && unsent === 0 && !away,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      post("/api/runs/{key}/offers", { params: { path: { key: view.id } }, body: { turn: view.turn } }),
  });
  const known = wrong ? (found.data ?? null) : null;
  return { offers: known?.offers ?? NONE, known, waiting: wrong && known === null };
}
