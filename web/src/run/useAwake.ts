/** The screen does not go dark while one stands at the torch, as far as the device lets a page ask for that. */
import { useEffect, useState } from "react";

export type Awake = "kept" | "not kept";

export function useAwake(): Awake {
  const [awake, setAwake] = useState<Awake>("not kept");
  useEffect(() => {
    let left = false;
    let lock: WakeLockSentinel | null = null;
    const ask = async () => {
      if (left || document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      try {
        const got = await navigator.wakeLock.request("screen");
        if (left) return void got.release();
        lock = got;
        got.addEventListener("release", () => setAwake("not kept"));
        setAwake("kept");
      } catch {
        // Refused, as when the battery is low: the device decides.
        setAwake("not kept");
      }
    };
    // The lock is lost whenever the page is hidden.
    const again = () => void ask();
    document.addEventListener("visibilitychange", again);
    again();
    return () => {
      left = true;
      document.removeEventListener("visibilitychange", again);
      void lock?.release();
    };
  }, []);
  return awake;
}
