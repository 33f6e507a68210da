import type { Rehearsal } from "../api/types";

type Hands = Rehearsal["hands"];
type Fate = "well" | "short" | "spoilt";

const ACROSS = 16;
const DOT = 9;

/** The hands one by one: those that do well first, then those that fall short, then those that spoil it. */
export function fates(hands: Hands): Fate[] {
  const spoilt = hands.spoilt.reduce((sum, one) => sum + one.count, 0);
  return [
    ...Array<Fate>(hands.well).fill("well"),
    ...Array<Fate>(hands.short).fill("short"),
    ...Array<Fate>(spoilt).fill("spoilt"),
  ];
}

/** The share of hands as it can be seen at arm's length: a full dot does well, a ring falls short, a cross is spoilt. */
export function HandsShare({ hands }: { hands: Hands }) {
  if (hands.tried === 0) return null;
  const rows = Math.ceil(hands.tried / ACROSS);
  return (
    <svg
      viewBox={`0 0 ${ACROSS * DOT} ${rows * DOT}`}
      width={ACROSS * DOT}
      height={rows * DOT}
      className="shrink-0"
      role="img"
      aria-label={`${hands.well} of ${hands.tried} hands do it well`}
    >
      {fates(hands).map((fate, n) => (
        <Dot
          key={`${fate}-${String(n)}`}
          fate={fate}
          x={(n % ACROSS) * DOT}
          y={Math.floor(n / ACROSS) * DOT}
        />
      ))}
    </svg>
  );
}

function Dot({ fate, x, y }: { fate: Fate; x: number; y: number }) {
  const middle = { cx: x + DOT / 2, cy: y + DOT / 2 };
  if (fate === "well") return <circle {...middle} r={3.2} fill="var(--accent)" />;
  if (fate === "short")
    return <circle {...middle} r={2.6} fill="none" stroke="var(--quiet)" strokeWidth={1.4} />;
  return <path d={`M${x + 2} ${y + 2}l5 5m0 -5l-5 5`} stroke="var(--alarm)" strokeWidth={1.6} fill="none" />;
}
