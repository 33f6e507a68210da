/** A run on the screen: followed for as long as it is open. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState, useSyncExternalStore } from "react";
import { askAnew } from "../api/queries";
import { Following, type RunHere } from "../happened/follow";
import type { Saying } from "../happened/keep";

/** Write down what is pressed; ends when it is kept on this device. */
export type Press = (...said: Saying[]) => Promise<void>;
/** Know steps that may be put in. */
export type Know = Following["know"];
export type Followed = { here: RunHere | null; trouble: unknown; press: Press; know: Know };

const still = () => () => {};

export function useRunHere(run: number): Followed {
  const cache = useQueryClient();
  const [following, setFollowing] = useState<Following | null>(null);
  useEffect(() => {
    const begun = new Following(run, () => {
      for (const known of ["rail", "log", "run"]) void askAnew(cache, [known]);
    });
    setFollowing(begun);
    return () => begun.close();
  }, [run, cache]);
  const seen = useSyncExternalStore(following?.subscribe ?? still, () => following?.seen ?? null);
  const press = useCallback<Press>((...said) => following?.press(...said) ?? Promise.resolve(), [following]);
  const know = useCallback<Know>((more) => following?.know(more) ?? Promise.resolve(), [following]);
  return { here: seen?.here ?? null, trouble: seen?.trouble ?? null, press, know };
}
