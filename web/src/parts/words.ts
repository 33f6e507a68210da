/** A number with its word: "1 part", "3 parts". */
export const counted = (number: number, word: string): string =>
  `${String(number)} ${word}${number === 1 ? "" : "s"}`;

/** A time under the flame: "16 s" below two minutes, then "3 min 20 s". */
export function saySeconds(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole < 120) return `${String(whole)} s`;
  const rest = whole % 60;
  return `${String(Math.floor(whole / 60))} min${rest === 0 ? "" : ` ${String(rest)} s`}`;
}

/** A solder in the one word that a bar has room for: its grade, or what it is. */
export const shortSolder = (row: { named?: string; grade?: string | null } | undefined): string => {
  const named = row?.named ?? "";
  if (named.endsWith(" rod")) return "rod";
  return named.includes(",") ? gradeWords(row?.grade ?? null) : named || gradeWords(row?.grade ?? null);
};

/** A grade in words. */
export const gradeWords = (grade: string | null): string =>
  grade === "it" ? "enamelling" : (grade ?? "").replace("-", " ");

/** How long a step takes: "40 s", "2.5 min", "45 min". */
export function sayMinutes(minutes: number): string {
  if (minutes < 1) return `${(60 * minutes).toFixed(0)} s`;
  return `${minutes.toFixed(minutes < 10 ? 1 : 0)} min`;
}
