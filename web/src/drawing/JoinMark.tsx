import type { CSSProperties, KeyboardEvent } from "react";

type JoinMarkProps = {
  x: number;
  y: number;
  unit: number;
  number: number;
  lit: boolean;
  title: string;
  onSelect: (() => void) | undefined;
  reached: boolean;
};

/** A join by its number, where it is. */
export function JoinMark({ x, y, unit, number, lit, title, onSelect, reached }: JoinMarkProps) {
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      onSelect?.();
    }
  };
  return (
    <g
      role={reached ? "button" : undefined}
      tabIndex={onSelect && reached ? 0 : -1}
      aria-hidden={!reached}
      aria-label={reached ? `Join ${String(number)}, ${title}` : undefined}
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
