/** Days, times and spans as the log writes them. */

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

/** How long a step takes: "40 s", "2.5 min", "45 min". */
export function sayMinutes(minutes: number): string {
  if (minutes < 1) return `${(60 * minutes).toFixed(0)} s`;
  return `${minutes.toFixed(minutes < 10 ? 1 : 0)} min`;
}
