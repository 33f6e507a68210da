/** The bar beside a drawing that tells its scale. */
import type { Units } from "./units";

/** How long a bar is: in pixels, in mm, and in words. */
export type Bar = { px: number; mm: number; words: string };

/** Choose a bar of 1, 2 or 5 times a power of ten, in mm or inches, that is some 40 to 110 pixels long. */
export function barFor(scale: number, { units }: Pick<Units, "units">): Bar {
  const [mm, unit] = units === "inch" ? [25.4, "in"] : [1, "mm"];
  const wanted = 100 / (scale * mm);
  const power = 10 ** Math.floor(Math.log10(wanted));
  const long = [5, 2, 1].map((times) => times * power).find((length) => length <= wanted) ?? power;
  return {
    px: Math.round(long * mm * scale * 100) / 100,
    mm: long * mm,
    words: `${String(Number(long.toPrecision(1)))} ${unit}`,
  };
}
