/** Days, times and spans as the log writes them. */
import type { RecordView } from "../api/types";

export const sayDay = (moment: string): string =>
  new Date(moment).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });

export const sayTime = (moment: string): string =>
  new Date(moment).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

/** How long something took: "40 s", "12 min", "1 h 05 min". */
export function saySpan(from: string, to: string | null): string {
  if (!to) return "still going";
  const minutes = Math.floor((new Date(to).getTime() - new Date(from).getTime()) / 60_000);
  if (minutes < 1)
    return `${String(Math.floor((new Date(to).getTime() - new Date(from).getTime()) / 1000))} s`;
  if (minutes < 60) return `${String(minutes)} min`;
  return `${String(Math.floor(minutes / 60))} h ${String(minutes % 60).padStart(2, "0")} min`;
}

/** A month as its columns are headed: "Jan", and with its year where that begins. */
export function sayMonth(month: string): string {
  const day = new Date(`${month}T12:00:00Z`);
  const name = day.toLocaleDateString("en-GB", { month: "short", timeZone: "UTC" }).slice(0, 3);
  return day.getUTCMonth() === 0 ? `${name} ${String(day.getUTCFullYear() % 100)}` : name;
}

const FAR_TOO_LONG = 3;
const EARLY_MIN = 1;

/** How far off its time a piece was taken out of the pot, where that is worth a word: over a minute early, or three times too long. */
export function sayWait({ step, started_at, ended_at, due_low, due_high }: RecordView): string {
  if (step.kind !== "pickle" || !ended_at || !due_low || !due_high) return "";
  const minutes = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 60_000;
  const early = minutes(ended_at, due_low);
  if (early >= EARLY_MIN) return `out ${early.toFixed(0)} min early`;
  const times = minutes(started_at, ended_at) / minutes(started_at, due_high);
  return times >= FAR_TOO_LONG ? `${times.toFixed(0)} times too long` : "";
}
