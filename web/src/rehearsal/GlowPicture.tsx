import type { GlowStep, Picture, PlacedPart, Rehearsal } from "../api/types";
import { Outline, pathOf } from "../drawing/DrawnPart";
import { lowestFirst } from "../drawing/views";
import { least, most } from "../parts/extent";
import { flameAt, glowAt, momentAt, type SeamState, seamsAt } from "./moments";

export type GlowPictureProps = {
  picture: Picture;
  rehearsal: Rehearsal;
  glow: readonly GlowStep[];
  seconds: number;
  footprint_mm: number;
  /** The size it is shown at, in pixels. */
  size: readonly [number, number];
};

type Spot = { x: number; y: number; c: number };

/** The heated parts to scale, each place in the colour of its heat, and the flame where it stands. */
export function GlowPicture({ picture, rehearsal, glow, seconds, footprint_mm, size }: GlowPictureProps) {
  const cells = rehearsal.cells;
  if (!cells) return null;
  const temperatures = cells.c[momentAt(rehearsal.series.time_s, seconds)] ?? [];
  const spots = new Map<string, Spot[]>();
  for (const [n, node] of cells.node.entries()) {
    const own = spots.get(node) ?? [];
    own.push({ x: cells.x_mm[n] ?? 0, y: cells.y_mm[n] ?? 0, c: temperatures[n] ?? 20 });
    spots.set(node, own);
  }
  const parts = lowestFirst(picture.parts.filter((part) => spots.has(part.node)));
  const box = boxOf(parts);
  const unit = Math.max(box.width / (size[0] - 24), box.height / (size[1] - 24), 0.001);
  const flame = flameAt(rehearsal, seconds, [box.width / 2, box.height / 2]);
  const margin = 12 * unit;
  return (
    <svg
      viewBox={[box.left - margin, box.top - margin, box.width + 2 * margin, box.height + 2 * margin].join(
        " ",
      )}
      className="h-full w-full"
      role="img"
      aria-label="The work in the colour of its heat"
    >
      {parts.map((part) => (
        <Glowing key={part.node} part={part} spots={spots.get(part.node) ?? []} glow={glow} unit={unit} />
      ))}
      {parts.slice(0, -1).map((part) => (
        <Outline key={part.node} part={part} unit={unit} />
      ))}
      {seamsAt(rehearsal, seconds).flatMap(({ join, state }) =>
        (picture.joins.find((mark) => mark.join === join)?.spots ?? []).map(([x, y]) => (
          <SeamMark key={`${join}-${String(x)}-${String(y)}`} x={x} y={y} unit={unit} state={state} />
        )),
      )}
      {flame && (
        <g aria-hidden>
          <circle
            cx={flame[0]}
            cy={flame[1]}
            r={footprint_mm}
            fill="none"
            stroke="var(--accent)"
            strokeWidth={1.6 * unit}
            strokeDasharray={`${String(5 * unit)} ${String(4 * unit)}`}
          />
          <circle
            cx={flame[0]}
            cy={flame[1]}
            r={5 * unit}
            fill="var(--accent)"
            stroke="var(--ground)"
            strokeWidth={unit}
          />
        </g>
      )}
    </svg>
  );
}

type SeamMarkProps = { x: number; y: number; unit: number; state: SeamState };

/** A seam: hollow while its flux is dry, dotted with crust, ringed once it is clear, filled when the solder has run. */
function SeamMark({ x, y, unit, state }: SeamMarkProps) {
  const wet = state === "clear as glass" || state === "spent";
  return (
    <g aria-hidden>
      <circle
        cx={x}
        cy={y}
        r={6.5 * unit}
        fill={state === "run" ? "var(--accent)" : "var(--ground)"}
        fillOpacity={state === "run" || wet ? 1 : 0.75}
        stroke={state === "spent" ? "var(--alarm)" : "var(--accent)"}
        strokeWidth={(wet ? 3 : 1.5) * unit}
        strokeDasharray={
          state === "white crust" || state === "dark" ? `${String(2 * unit)} ${String(2 * unit)}` : undefined
        }
      />
    </g>
  );
}

type GlowingProps = { part: PlacedPart; spots: Spot[]; glow: readonly GlowStep[]; unit: number };

function Glowing({ part, spots, glow, unit }: GlowingProps) {
  const [line, ...rest] = part.lines;
  if (!line) return null;
  if (line.width_mm > 0 && spots.length > 1) {
    return (
      <g strokeLinecap="round">
        {spots.map((spot, n) => {
          const next = spots[n + 1] ?? (line.closed ? spots[0] : undefined);
          return next ? (
            <path
              key={String(n)}
              d={`M${spot.x} ${spot.y}L${next.x} ${next.y}`}
              stroke={glowAt(glow, (spot.c + next.c) / 2)}
              strokeWidth={Math.max(line.width_mm, 3 * unit)}
            />
          ) : null;
        })}
      </g>
    );
  }
  const outline = pathOf(line.points, true);
  const holes = rest
    .filter((one) => one.closed && !one.faint)
    .map((one) => pathOf(one.points, true))
    .join("");
  const name = `glow-${part.node.replace(/[^\w-]/g, "-")}`;
  const reach = 0.85 * Math.sqrt((part.width_mm * part.height_mm) / Math.max(1, spots.length));
  const mean = spots.reduce((sum, spot) => sum + spot.c, 0) / Math.max(1, spots.length);
  return (
    <g>
      <clipPath id={name}>
        <path d={outline + holes} clipRule="evenodd" />
      </clipPath>
      <path d={outline + holes} fillRule="evenodd" fill={glowAt(glow, mean)} />
      {spots.length > 1 && (
        <g clipPath={`url(#${name})`}>
          {spots.map((spot, n) => (
            <rect
              key={String(n)}
              x={spot.x - reach / 1.4}
              y={spot.y - reach / 1.4}
              width={reach * 1.43}
              height={reach * 1.43}
              fill={glowAt(glow, spot.c)}
            />
          ))}
        </g>
      )}
      <path d={outline + holes} fill="none" stroke="var(--quiet)" strokeWidth={0.8 * unit} />
    </g>
  );
}

function boxOf(parts: readonly PlacedPart[]) {
  const points = parts.flatMap((part) =>
    part.lines.flatMap((line) => line.points.map(([x, y]) => [x, y, line.width_mm / 2] as const)),
  );
  const left = least(points.map(([x, , half]) => x - half));
  const right = most(points.map(([x, , half]) => x + half));
  const top = least(points.map(([, y, half]) => y - half));
  const low = most(points.map(([, y, half]) => y + half));
  return { left, top, width: Math.max(right - left, 1), height: Math.max(low - top, 1) };
}
