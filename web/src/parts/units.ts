/** Measures in the units of the house. Sentences come from the server spoken in them already. */
import type { BenchView } from "../api/types";

export type Units = Pick<BenchView["house"], "units" | "gauge_shown" | "temperature" | "mass">;
export const METRIC: Units = { units: "mm", gauge_shown: "yes", temperature: "c", mass: "g" };

const MM_PER_INCH = 25.4;
const G_PER_DWT = 1.55517;
const G_PER_OZT = 31.1035;

const trimmed = (value: number, places: number) => String(Number(value.toFixed(places)));

/** A length without its unit, as a field shows it. */
export const bareLength = (mm: number, units: Units): string =>
  units.units === "inch" ? trimmed(mm / MM_PER_INCH, 4) : trimmed(mm, 4);

/** A mass without its unit, as a field shows it: grams or pennyweights. */
export const bareMass = (grams: number, units: Units): string =>
  units.mass === "g" ? trimmed(grams, 4) : trimmed(grams / G_PER_DWT, 4);

/** What a mass is typed in where it is bare, and how many grams so many of those are. */
export const massUnit = (units: Units): string => (units.mass === "g" ? "g" : "dwt");
export const gramsOf = (mass: number, units: Units): number =>
  units.mass === "g" ? mass : Number((mass * G_PER_DWT).toFixed(4));

export const sayLength = (mm: number, units: Units, places = 2): string =>
  units.units === "inch" ? `${(mm / MM_PER_INCH).toFixed(places + 1)} in` : `${mm.toFixed(places)} mm`;

export function sayArea(mm2: number, units: Units): string {
  return units.units === "inch" ? `${(mm2 / MM_PER_INCH ** 2).toFixed(3)} in²` : `${mm2.toFixed(0)} mm²`;
}

export function sayMass(grams: number, units: Units, places = 2): string {
  if (units.mass === "g") return `${grams.toFixed(places)} g`;
  return grams >= G_PER_OZT
    ? `${(grams / G_PER_OZT).toFixed(3)} ozt`
    : `${(grams / G_PER_DWT).toFixed(places)} dwt`;
}

const fahrenheit = (celsius: number) => (celsius * 9) / 5 + 32;

/** A temperature without its unit, as marks on a scale show it. */
export const bareDegrees = (celsius: number, units: Units): string =>
  String(Math.round(units.temperature === "f" ? fahrenheit(celsius) : celsius));

/** A temperature without its unit, as a field shows it. */
export const bareTemperature = (celsius: number, units: Units): string =>
  trimmed(units.temperature === "f" ? fahrenheit(celsius) : celsius, 2);

export const sayDegrees = (celsius: number, units: Units): string =>
  `${bareDegrees(celsius, units)} ${units.temperature === "f" ? "°F" : "°C"}`;

/** A difference of temperatures: it has no 32 added. */
export const sayDifference = (celsius: number, units: Units): string =>
  units.temperature === "f" ? `${String(Math.round(celsius * 1.8))} °F` : `${String(Math.round(celsius))} °C`;
