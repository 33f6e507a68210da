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
