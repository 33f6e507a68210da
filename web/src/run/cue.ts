/** A cue that is heard when it is time to look: at the sign that is waited for, or when a timer is over. */
import { useEffect, useRef } from "react";
import type { RunView } from "../api/types";
import { offsetOf, secondsUntil, useTick } from "../shell/clock";
import { atTorch, type Cue } from "./kept";
import { heatAt } from "./Stages";
import { recordAt } from "./words";

export type Due = { at: number; says: string };

/** When the next cue is due, by the server's clock (ms), and what it says; null where nothing is waited for.
 *
 * The sign at hand comes as the rehearsal has it, stretched as the signs so far have shown the torch to be today.
 */
export function nextCue(run: RunView): Due | null {
  const led = heatAt(run);
  const lit = led?.flame.signs.find((sign) => sign.stage === 0);
  const next = led?.flame.next;
  if (led && lit && next) {
    const stage = led.stages[next - 1];
    const last = led.stages[led.stages.length - 1];
    if (!stage || !last) return null;
    const from = Date.parse(lit.at);
    const whole = led.flame.done_at ? (Date.parse(led.flame.done_at) - from) / 1000 : last.likely_s;
    const today = last.likely_s > 0 ? whole / last.likely_s : 1;
    return { at: from + stage.likely_s * today * 1000, says: `Look: ${stage.see}` };
  }
  const due = recordAt(run)?.due_low;
  return due ? { at: Date.parse(due), says: "Look now; it may come out" } : null;
}

/** Sound two notes, or say the words; where the device cannot, nothing is heard. */
export function sound(cue: Cue, says: string): void {
  if (cue === "spoken" && "speechSynthesis" in window) {
    speechSynthesis.cancel();
    speechSynthesis.speak(new SpeechSynthesisUtterance(says));
  } else if (cue !== "off" && "AudioContext" in window) {
    chime(new AudioContext());
  }
}

const NOTES_HZ = [660, 880];
const NOTE_S = 0.35;

function chime(audio: AudioContext): void {
  const loud = audio.createGain();
  loud.gain.value = 0.25;
  loud.connect(audio.destination);
  for (const [n, hz] of NOTES_HZ.entries()) {
    const note = audio.createOscillator();
    note.frequency.value = hz;
    note.connect(loud);
    note.start(audio.currentTime + n * NOTE_S);
    note.stop(audio.currentTime + (n + 1) * NOTE_S);
    if (n === NOTES_HZ.length - 1) note.onended = () => void audio.close();
  }
}

/** Let each cue of a run be heard once, when it is due; one that was past when the run was opened is not. */
export function useCue(run: RunView, asOf: number): void {
  const here = useTick();
  const offset = offsetOf(run.now, asOf);
  const due = nextCue(run);
  const before = useRef<string | null>(null);
  const name = due ? `${String(run.position)}.${String(run.again)} ${due.says}` : null;
  const left = due ? secondsUntil(new Date(due.at).toISOString(), offset, here) : null;
  useEffect(() => {
    if (name === null || left === null) return;
    if (left > 0) before.current = name;
    else if (before.current === name && due) {
      before.current = null;
      sound(atTorch().cue, due.says);
    }
  }, [name, left, due]);
}
