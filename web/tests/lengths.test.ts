import { describe, expect, it } from "vitest";
import cases from "../../tests/shared/lengths.json";
import { readLength } from "../src/parts/readLength";
import { METRIC } from "../src/parts/units";

describe("lengths are read as the core reads them", () => {
  it.each(cases.map((one) => [`${one.text} (${one.unit}${one.gauge ? "" : ", no gauge"})`, one] as const))(
    "%s",
    (_, one) => {
      const units = {
        ...METRIC,
        units: one.unit as "mm" | "inch",
        gauge_shown: one.gauge ? ("yes" as const) : ("no" as const),
      };
      const read = readLength(one.text, units);
      if (one.value === null) expect(read).toHaveProperty("problem");
      else expect(read).toEqual({ value: one.value, understood: one.understood });
    },
  );
});
