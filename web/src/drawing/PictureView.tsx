import type { CSSProperties, KeyboardEvent } from "react";
import type { Picture, PlacedPart } from "../api/types";
import { barFor } from "../parts/scaleBar";
import { useUnits } from "../parts/useUnits";

export type Selection = { kind: "part" | "join" | "work"; id: string } | null;
export type PictureViewProps = {
  picture: Picture;
  /** How large it is shown, in pixels; lines and marks keep their thickness by it. */
  size?: readonly [width: number, height: number];
  plain?: boolean;
  selected?: Selection;
  titles?: Record<string, string>;
  onSelect?: (selection: Selection) => void;
};

const USUAL = [640, 400] as const;

/** A piece drawn to scale in plan: wire as bands, edges as thin lines, joins as numbered marks. */
export function PictureView({
  picture,
  size = USUAL,
  plain,
  selected,
  titles = {},
  onSelect,
}: PictureViewProps) {
  // One unit is about one pixel of the picture as it is shown, in mm.
  const unit = Math.max(picture.width_mm / (size[0] - 8), picture.height_mm / (size[1] - 8), 0.001);
  const margin = unit * (plain ? 3 : 30);
  const box = [
    picture.left_mm - margin,
    picture.top_mm - margin,
    picture.width_mm + 2 * margin,
    picture.height_mm + 2 * margin,
  ];
  const among = selected?.kind === "join" ? selected.id : null;
  return (
    <svg
      viewBox={box.join(" ")}
      className="h-full w-full"
      role={plain ? undefined : "group"}
      aria-label={plain ? undefined : "The piece to scale, in plan"}
    >
      {picture.parts.map((part) => (
        <DrawnPart
          key={part.node}
          part={part}
          unit={unit}
          lit={selected?.kind === "part" && selected.id === part.part}
          title={titles[part.part] ?? part.part}
          onSelect={onSelect && (() => onSelect({ kind: "part", id: part.part }))}
        />
      ))}
      {!plain &&
        picture.joins.flatMap((mark) =>
          mark.spots.map(([x, y], n) => (
            <JoinMark
              key={`${mark.join}-${String(n)}`}
              x={x}
              y={y}
              unit={unit}
              number={mark.number}
              lit={among === mark.join}
              title={titles[mark.join] ?? mark.join}
              onSelect={onSelect && (() => onSelect({ kind: "join", id: mark.join }))}
            />
          )),
        )}
      {!plain && <ScaleBar x={box[0] ?? 0} y={(box[1] ?? 0) + (box[3] ?? 0)} unit={unit} />}
    </svg>
  );
}

type DrawnPartProps = {
  part: PlacedPart;
  unit: number;
  lit: boolean;
  title: string;
  onSelect: (() => void) | undefined;
};

function DrawnPart({ part, unit, lit, title, onSelect }: DrawnPartProps) {
  const ink = lit ? "var(--accent)" : "var(--ink)";
  const fill = lit ? "var(--accent-soft)" : "var(--raised)";
  return (
    <g className={onSelect ? "cursor-pointer" : ""} onClick={onSelect} aria-hidden>
      <title>{title}</title>
      {part.lines.map((line, n) => {
        const path = `M${line.points.map(([x, y]) => `${x} ${y}`).join("L")}${line.closed ? "Z" : ""}`;
        const key = `${part.node}-${String(n)}`;
        if (line.faint)
          return <path key={key} d={path} fill="none" stroke="var(--hair)" strokeWidth={unit} />;
        if (line.width_mm > 0) {
          const inner = Math.max(line.width_mm - 2.4 * unit, 0);
          return (
            <g key={key} fill="none" strokeLinejoin="round">
              <path d={path} stroke={ink} strokeWidth={Math.max(line.width_mm, 2 * unit)} />
              <path d={path} stroke={fill} strokeWidth={inner} />
            </g>
          );
        }
        return (
          <path
            key={key}
            d={path}
            fill={n === 0 ? fill : "var(--ground)"}
            stroke={ink}
            strokeWidth={(lit ? 2 : 1.3) * unit}
          />
        );
      })}
    </g>
  );
}

type JoinMarkProps = {
  x: number;
  y: number;
  unit: number;
  number: number;
  lit: boolean;
  title: string;
  onSelect: (() => void) | undefined;
};

function JoinMark({ x, y, unit, number, lit, title, onSelect }: JoinMarkProps) {
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      onSelect?.();
    }
  };
  return (
    <g
      role="button"
      tabIndex={onSelect ? 0 : -1}
      aria-label={`Join ${String(number)}, ${title}`}
      className="join-mark cursor-pointer"
      style={{ "--ring": 3 * unit } as CSSProperties}
      onClick={onSelect}
      onKeyDown={press}
    >
      <title>{title}</title>
      <circle
        cx={x}
        cy={y}
        r={(lit ? 12 : 9.5) * unit}
        fill={lit ? "var(--accent)" : "var(--ground)"}
        stroke="var(--accent)"
        strokeWidth={1.4 * unit}
      />
      <text
        x={x}
        y={y + 4.3 * unit}
        textAnchor="middle"
        fontSize={12.5 * unit}
        fontWeight={700}
        fill={lit ? "var(--on-accent)" : "var(--accent)"}
        className="select-none"
      >
        {number}
      </text>
    </g>
  );
}

/** A bar of a round length, so that the eye knows the size. */
function ScaleBar({ x, y, unit }: { x: number; y: number; unit: number }) {
  const units = useUnits();
  const { mm: length, words } = barFor(1 / unit, units);
  const left = x + 8 * unit;
  const low = y - 8 * unit;
  return (
    <g aria-hidden>
      <path
        d={`M${left} ${low - 5 * unit}V${low}H${left + length}V${low - 5 * unit}`}
        fill="none"
        stroke="var(--quiet)"
        strokeWidth={unit}
      />
      <text x={left + length + 6 * unit} y={low} fontSize={12.5 * unit} fill="var(--quiet)">
        {words}
      </text>
    </g>
  );
}
