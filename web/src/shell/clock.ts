/** Times kept by the server, shown by the browser's clock: the difference of the two is carried along. */
import { useSyncExternalStore } from "react";

/** How far the server's clock is ahead of this one, ms. */
export function offsetOf(serverNow: string, here: number = Date.now()): number {
  return new Date(serverNow).getTime() - here;
}

/** Whole seconds from now (on the server's clock) until a moment; below 0 when it has passed. */
export function secondsUntil(moment: string, offset: number, here: number = Date.now()): number {
  return Math.round((new Date(moment).getTime() - (here + offset)) / 1000);
}

/** Seconds as a smith reads them across the room: 0:24, 12:05, 1:02:00. */
export function sayClock(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, "0");
  return hours ? `${hours}:${String(minutes).padStart(2, "0")}:${rest}` : `${minutes}:${rest}`;
}

/** What a timer between an early and a late moment says: counting to the first, then to the second, then over. */
export function readTimer(
  low: string,
  high: string,
  offset: number,
  here: number = Date.now(),
): { state: "waiting" | "ready" | "over"; seconds: number } {
  const early = secondsUntil(low, offset, here);
  if (early > 0) return { state: "waiting", seconds: early };
  const late = secondsUntil(high, offset, here);
  return late > 0 ? { state: "ready", seconds: late } : { state: "over", seconds: -late };
}

const TICK_MS = 500;
const ticking = new Set<() => void>();
let ticker: ReturnType<typeof setInterval> | undefined;
let second = 0;

/** The moment all clocks show. While none is on the screen nothing moves it, so the first one drawn looks for itself. */
function shown(): number {
  if (ticker === undefined && Math.abs(Date.now() - second) >= TICK_MS) second = Date.now();
  return second;
}

function listen(listener: () => void): () => void {
  ticking.add(listener);
  ticker ??= setInterval(() => {
    second = Date.now();
    for (const one of ticking) one();
  }, TICK_MS);
  return () => {
    ticking.delete(listener);
    if (ticking.size === 0) {
      clearInterval(ticker);
      ticker = undefined;
    }
  };
}

/** Draw again with every tick, all clocks of a screen at the same moment. */
export function useTick(): number {
  return useSyncExternalStore(listen, shown);
}
