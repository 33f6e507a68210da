import { NumberField } from "./Field";
import { bareMass, gramsOf, massUnit } from "./units";
import { useUnits } from "./useUnits";

export type MassFieldProps = { label: string; grams: number; onCommit: (grams: number) => void };

/** A mass, typed in what the house weighs in; empty where nothing was weighed. */
export function MassField({ label, grams, onCommit }: MassFieldProps) {
  const units = useUnits();
  return (
    <NumberField
      label={label}
      unit={massUnit(units)}
      blank
      value={Number(bareMass(grams, units))}
      onCommit={(mass) => onCommit(gramsOf(mass, units))}
    />
  );
}
