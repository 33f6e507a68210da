/**
 * What was last typed into each calculator, kept on this machine so that it is there again. A bare number means what the
 * house meant by it then, so it is there again only in a house of the same units.
 */
import type { Units } from "../parts/units";
import type { TypedGroup } from "./typed";

const place = (name: string, { units, mass, temperature }: Units) =>
  `eskel.sizes.${name}.${units}.${mass}.${temperature}`;

export function readKept(name: string, units: Units): TypedGroup | null {
  try {
    const text = localStorage.getItem(place(name, units));
    return text === null ? null : (JSON.parse(text) as TypedGroup);
  } catch {
    return null;
  }
}

export function keepTyped(name: string, typed: TypedGroup, units: Units): void {
  try {
    localStorage.setItem(place(name, units), JSON.stringify(typed));
  } catch {
    // A full or closed store only means that it is not there again next time.
  }
}
