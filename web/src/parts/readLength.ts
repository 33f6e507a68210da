/**
 * A length as smiths type it, read here so that a field answers at each key. The core reads the same (`units/_lengths.py`);
 * both are held to the cases of `tests/shared/lengths.json`.
 */

import { least, most } from "./extent";
import type { Units } from "./units";

export type ReadLength = { value: number; understood: string };
export type NotALength = { problem: string };

const MM_PER_INCH = 25.4;
const LONGEST_MM = 5000;
const LEAST_MM = 0.003;
const MOST_READINGS = 20;
const [THICKEST_GAUGE, FINEST_GAUGE] = [-3, 40];
const GAUGE_WORDS = new Set(["ga", "gauge", "g", "awg", "b&s"]);
const INCH_WORDS = ["in", "inch", "inches", '"', "”", "″", "''"];
const SCALE = new Map<string, number>([
  ["mm", 1],
  ["cm", 10],
  ["m", 1000],
  ["µm", 0.001],
  ["ft", 12 * MM_PER_INCH],
  ...INCH_WORDS.map((word) => [word, MM_PER_INCH] as const),
]);
const VULGAR: Record<string, string> = {
  "½": " 1/2",
  "¼": " 1/4",
  "¾": " 3/4",
  "⅛": " 1/8",
  "⅜": " 3/8",
  "⅝": " 5/8",
  "⅞": " 7/8",
};
const TYPED = /^([-−+]?)\s*(?:(?:(\d+)[ -]+)?(\d+)\/(\d+)|(\d+(?:[.,]\d*)?|[.,]\d+))\s*([^\d\s][^\d]*)?$/;
const AUGHTS = /^(0{2,})\s*(ga|gauge|g|awg|b&s)\.?$/i;

const gaugeMm = (gauge: number) => 0.127 * 92 ** ((36 - gauge) / 39);
const gaugeOf = (mm: number) => 36 - (39 * Math.log(mm / 0.127)) / Math.log(92);
/** A half goes to the even side, as the core's rounding has it. */
const toEven = (value: number) => {
  const below = Math.floor(value);
  return value - below === 0.5 ? below + (below % 2) : Math.round(value);
};
const significant = (value: number, places: number) => String(Number(value.toPrecision(places)));
const short = (value: number) => (Math.abs(value) >= 1000 ? value.toFixed(0) : significant(value, 4));
const sayGauge = (gauge: number) => (gauge > 0 ? String(gauge) : "0".repeat(1 - gauge));

function split(text: string): { number: number; word: string } | null {
  const cleaned = Object.entries(VULGAR).reduce((all, [sign, plain]) => all.replaceAll(sign, plain), text);
  const match = TYPED.exec(cleaned.trim());
  if (!match) return null;
  const [, sign, whole, top, under, plain, unit] = match;
  if (plain === undefined && Number(under) === 0) return null;
  const number =
    plain === undefined ? Number(whole ?? 0) + Number(top) / Number(under) : Number(plain.replace(",", "."));
  const word = (unit ?? "").trim().replace(/\.+$/, "").toLowerCase();
  return { number: sign === "-" || sign === "−" ? -number : number, word };
}

function ofGauge(gauge: number, written: string): ReadLength | NotALength {
  if (gauge < THICKEST_GAUGE || gauge > FINEST_GAUGE)
    return { problem: "B&S gauge runs from 0000 to 40. Give the size in mm." };
  const mm = gaugeMm(gauge);
  return {
    value: Number(mm.toFixed(3)),
    understood: `${written} gauge (B&S) = ${mm.toFixed(3)} mm = ${short(mm / MM_PER_INCH)} in`,
  };
}

function beside(mm: number, units: Units, inchFirst: boolean): string {
  const both = [`${significant(mm, 6)} mm`, `${significant(mm / MM_PER_INCH, 4)} in`];
  const told = (inchFirst ? both.reverse() : both).join(" = ");
  if (units.gauge_shown !== "yes" || mm < gaugeMm(FINEST_GAUGE) || mm > gaugeMm(THICKEST_GAUGE)) return told;
  return `${told}, near ${sayGauge(toEven(gaugeOf(mm)))} ga`;
}

/** Several readings of one thing are their mean; one that names no unit has that of another. */
function meanOf(readings: readonly string[], units: Units): ReadLength | NotALength {
  if (readings.length === 1) return readLength(readings[0] ?? "", units);
  if (readings.length > MOST_READINGS)
    return { problem: `at most ${String(MOST_READINGS)} readings are taken together. Type fewer.` };
  const words = readings.map((one) => (split(one) ?? { word: one }).word);
  const unit = words.findLast((word) => word !== "") ?? "";
  const read = readings.map((one, n) => readLength(words[n] ? one : `${one} ${unit}`, units));
  const bad = read.find((one) => "problem" in one);
  if (bad) return bad;
  const found = read.map((one) => ("value" in one ? one.value : 0));
  const mm = Number((found.reduce((sum, one) => sum + one, 0) / found.length).toFixed(4));
  const spread = most(found) - least(found);
  const apart =
    units.units === "inch"
      ? `${String(Number((spread / MM_PER_INCH).toFixed(3)))} in`
      : `${String(Number(spread.toFixed(2)))} mm`;
  const inchFirst = INCH_WORDS.includes(unit) || (unit === "" && units.units === "inch");
  return {
    value: mm,
    understood: `the mean of ${String(found.length)}, ${apart} apart: ${beside(mm, units, inchFirst)}`,
  };
}

/** Read a length, mm; a bare number is in the unit of the house. */
export function readLength(text: string, units: Units): ReadLength | NotALength {
  const readings = text.split(";").map((one) => one.trim());
  if (readings.length > 1 && readings.some(Boolean)) return meanOf(readings.filter(Boolean), units);
  const aughts = AUGHTS.exec(text.trim());
  if (aughts?.[1]) return ofGauge(1 - aughts[1].length, aughts[1]);
  const typed = split(text);
  if (!typed || !(typed.word === "" || SCALE.has(typed.word) || GAUGE_WORDS.has(typed.word)))
    return {
      problem:
        'a length is a number with mm, cm, in or ga. Type for example 0.8, 0.8 mm, 21 ga, 7/16 in or 5/32"; several readings as 17.2; 17.3.',
    };
  if (GAUGE_WORDS.has(typed.word)) return ofGauge(typed.number, significant(typed.number, 6));
  const scale = SCALE.get(typed.word) ?? (units.units === "inch" ? MM_PER_INCH : 1);
  const mm = Number((typed.number * scale).toFixed(4));
  if (!(typed.number * scale >= LEAST_MM && typed.number * scale <= LONGEST_MM))
    return {
      problem: `a length is at least ${String(LEAST_MM)} and at most ${String(LONGEST_MM)} mm. Check the number.`,
    };
  return { value: mm, understood: beside(mm, units, scale !== 1 && typed.word !== "cm") };
}
