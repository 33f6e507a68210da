import { createContext, useContext } from "react";
import { useBench } from "../api/queries";
import { METRIC, type Units } from "./units";

/** The units of a piece that sets its own house rules; elsewhere those of the bench hold. */
export const OwnUnits = createContext<Units | null>(null);

/** The units that the house speaks in. */
export function useUnits(): Units {
  const own = useContext(OwnUnits);
  const bench = useBench();
  return own ?? bench.data?.house ?? METRIC;
}
