import { type ReactNode, useEffect, useRef, useState } from "react";
import { Button } from "../parts/Button";
import { Slider } from "../parts/Slider";
import { heard } from "../shell/keys";

export type TimeBarProps = {
  seconds: number;
  end: number;
  onSeconds: (seconds: number) => void;
  /** What stands along the time, as wide as the slider. */
  children?: ReactNode;
};

const STEPS = 240;

/** The time of the rehearsal: play and pause (space), and a slider that the arrow keys move. */
export function TimeBar({ seconds, end, onSeconds, children }: TimeBarProps) {
  const [playing, setPlaying] = useState(false);
  const at = useRef(seconds);
  at.current = seconds;
  const tell = useRef(onSeconds);
  tell.current = onSeconds;
  useEffect(() => {
    if (!playing) return;
    let last: number | null = null;
    let frame = requestAnimationFrame(function next(now: number) {
      const moved = at.current + (last === null ? 0 : (now - last) / 1000);
      last = now;
      if (moved >= end) {
        tell.current(end);
        setPlaying(false);
        return;
      }
      tell.current(moved);
      frame = requestAnimationFrame(next);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, end]);
  const toggle = () => {
    if (!playing && at.current >= end - 0.01) onSeconds(0);
    setPlaying(!playing);
  };
  return (
    <div className="flex items-center gap-4">
      <Button className="w-24" aria-pressed={playing} onClick={toggle}>
        {playing ? "Pause" : "Play"}
      </Button>
      <div className="min-w-0 flex-1">
        {children}
        <Slider
          label="Time"
          said={`${seconds.toFixed(1)} seconds`}
          max={end}
          step={end / STEPS}
          value={seconds}
          onValue={(to) => {
            setPlaying(false);
            onSeconds(to);
          }}
          onKeyDown={(event) => heard(event, { "rehearsal.play": toggle })}
        />
      </div>
      <output className="figures w-28 whitespace-nowrap text-right text-[26px] font-semibold">
        {seconds.toFixed(1)} s
      </output>
    </div>
  );
}
