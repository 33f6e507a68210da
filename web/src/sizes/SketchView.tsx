import type { Sketch } from "../api/types";
import { useUnits } from "../parts/useUnits";
import { layOut } from "./sketch";

const STROKE = {
  metal: { stroke: "var(--ink)", strokeWidth: 1.5 },
  fine: { stroke: "var(--metal)", strokeWidth: 1 },
  hidden: { stroke: "var(--metal)", strokeWidth: 1, strokeDasharray: "4 4" },
  mark: { stroke: "var(--accent)", strokeWidth: 2 },
} as const;

export type SketchViewProps = { sketch: Sketch; width: number; height: number };

/** A drawing to scale, with a bar that tells the scale. */
export function SketchView({ sketch, width, height }: SketchViewProps) {
  const units = useUnits();
  const { place, bar } = layOut(sketch, width, height - 26, 22, width > 400 ? 64 : 26, units);
  return (
    <svg
      viewBox={`0 0 ${String(width)} ${String(height)}`}
      className="block w-full max-w-[640px]"
      role="img"
      aria-label={`Drawing to scale; the bar is ${bar.words}`}
    >
      {sketch.lines.map((line) => {
        const points = line.points.map((spot) => place(spot as [number, number]).join(",")).join(" ");
        const Shape = line.closed ? "polygon" : "polyline";
        return (
          <Shape key={`${line.stands} ${points}`} points={points} fill="none" {...STROKE[line.stands]} />
        );
      })}
      {sketch.labels.map((label) => {
        const [x, y] = place(label.at as [number, number]);
        return (
          <text
            key={`${label.text} ${String(x)} ${String(y)}`}
            x={x}
            y={y + 5}
            textAnchor={label.anchor}
            className="figures fill-ink text-[14px]"
          >
            {label.text}
          </text>
        );
      })}
      <g transform={`translate(22 ${String(height - 10)})`} stroke="var(--quiet)" fill="none">
        <path d={`M0 -4V4M0 0H${String(bar.px)}M${String(bar.px)} -4V4`} />
        <text x={bar.px + 8} y={5} stroke="none" className="figures fill-quiet text-[13px]">
          {bar.words}
        </text>
      </g>
    </svg>
  );
}
