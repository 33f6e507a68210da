import { createContext, useContext, useMemo } from "react";
import { useBench } from "../api/queries";
import { METRIC, respeak, type Units } from "./units";

/** The units of a piece that sets its own house rules; elsewhere those of the bench hold. */
export const OwnUnits = createContext<Units | null>(null);

/** The units that the house speaks in. */
export function useUnits(): Units {
  const own = useContext(OwnUnits);
  const bench = useBench();
  return own ?? bench.data?.house ?? METRIC;
}

/** What the core says, spoken in the units of the house: every sentence in it, however deep. */
export function useSpoken<T>(told: T): T {
  const units = useUnits();
  return useMemo(() => (isMetric(units) ? told : speakAll(told, units)), [told, units]);
}

const isMetric = (units: Units) => units.units === "mm" && units.temperature === "c";

function speakAll<T>(told: T, units: Units): T {
  if (typeof told === "string") return respeak(told, units) as T;
  if (Array.isArray(told)) return told.map((one: unknown) => speakAll(one, units)) as T;
  if (typeof told !== "object" || told === null) return told;
  return Object.fromEntries(Object.entries(told).map(([key, one]) => [key, speakAll(one, units)])) as T;
}
