import { Slider as Slide } from "radix-ui";
import type { KeyboardEvent } from "react";

export type SliderProps = {
  label: string;
  value: number;
  max: number;
  step: number;
  /** The value as it is said. */
  said: string;
  onValue: (value: number) => void;
  onKeyDown?: (event: KeyboardEvent<HTMLElement>) => void;
};

/** A value along a line: dragged, or moved by the arrow keys, Home and End. */
export function Slider({ label, value, max, step, said, onValue, onKeyDown }: SliderProps) {
  return (
    <Slide.Root
      className="relative mt-1 flex h-8 w-full touch-none items-center select-none"
      value={[Math.min(value, max)]}
      min={0}
      max={max}
      step={step}
      onValueChange={([to]) => to !== undefined && onValue(to)}
    >
      <Slide.Track className="relative h-2 grow rounded-full bg-sunk">
        <Slide.Range className="absolute h-full rounded-full bg-accent" />
      </Slide.Track>
      <Slide.Thumb
        aria-label={label}
        aria-valuetext={said}
        className="block size-6 cursor-grab rounded-full border-2 border-accent bg-raised"
        onKeyDown={onKeyDown}
      />
    </Slide.Root>
  );
}
