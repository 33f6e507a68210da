/** Of which of many alike a word is said: each its own small drawing, ticked by its number or by touch. */
import type { Picture } from "../api/types";
import { PictureView } from "../drawing/PictureView";
import { Key } from "../parts/Key";
import { chosen, sayCopies } from "./copies";
import type { Choosing } from "./useCopies";

/** Of more than so many each is told by its number alone. */
const MOST_DRAWN = 48;
const SIZE = [44, 34] as const;

export type CopiesProps = { title: string; picture: Picture; choosing: Choosing };

export function Copies({ title, picture, choosing }: CopiesProps) {
  const { word, ticks, left, alike } = choosing;
  const these = chosen(ticks, left);
  return (
    <fieldset aria-label={`Of which of ${title}: ${word.words}?`}>
      <p className="mb-2 text-[20px]">
        {title}: <b className="font-semibold">{word.words}</b>. {ticks.but ? "All but which" : "Which"}, of{" "}
        {alike}?<span className="text-quiet"> Their numbers, then Enter.</span>
        {ticks.typed !== "" && <output className="figures ml-3 font-bold">{ticks.typed}…</output>}
      </p>
      {alike <= MOST_DRAWN && <Drawn picture={picture} choosing={choosing} />}
      <div className="mt-2.5 flex flex-wrap gap-2.5">
        <Way keyed="Enter" disabled={these.length === 0 && ticks.typed === ""} onDo={choosing.these}>
          {these.length === 0 ? "These" : sayCopies(these)}
        </Way>
        <Way keyed="a" onDo={choosing.all}>
          {left.length === alike ? `All ${String(alike)}` : `All ${String(left.length)} left`}
        </Way>
        <Way keyed="-" pressed={ticks.but} onDo={choosing.allBut}>
          All but
        </Way>
        <Way keyed="⌫" onDo={choosing.close}>
          Another word
        </Way>
      </div>
    </fieldset>
  );
}

type WayProps = {
  keyed: string;
  disabled?: boolean;
  pressed?: boolean;
  onDo: () => void;
  children: React.ReactNode;
};

function Way({ keyed, disabled = false, pressed, onDo, children }: WayProps) {
  return (
    <button
      type="button"
      disabled={disabled}
      aria-pressed={pressed}
      onClick={onDo}
      className="flex min-h-16 min-w-28 flex-1 items-center gap-3 rounded-lg border border-hair px-3 text-left text-[18px] hover:border-quiet disabled:opacity-40 aria-pressed:border-accent aria-pressed:bg-accent-soft"
    >
      <Key>{keyed}</Key>
      {children}
    </button>
  );
}

/** Each copy with its number; what has its word already is pale. */
function Drawn({ picture, choosing: { ticks, left, alike, tick } }: Omit<CopiesProps, "title">) {
  const ticked = new Set(chosen(ticks, left));
  return (
    <>
      <svg className="absolute" width="0" height="0" aria-hidden>
        <symbol id="copy" viewBox={`0 0 ${String(SIZE[0])} ${String(SIZE[1])}`}>
          <PictureView picture={picture} size={SIZE} plain />
        </symbol>
      </svg>
      <div className="flex flex-wrap gap-2">
        {Array.from({ length: alike }, (_, n) => n + 1).map((copy) => (
          <button
            key={copy}
            type="button"
            aria-pressed={ticked.has(copy)}
            aria-label={`Copy ${String(copy)}`}
            disabled={!left.includes(copy)}
            // The focus stays where it was, so that Enter still means the ticked.
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => tick(copy)}
            className="flex min-h-16 w-[76px] flex-col items-center justify-center rounded-lg border-2 border-hair text-[17px] leading-tight hover:border-quiet disabled:opacity-35 aria-pressed:border-accent aria-pressed:bg-accent-soft aria-pressed:font-bold"
          >
            <svg width={SIZE[0]} height={SIZE[1]} aria-hidden>
              <use href="#copy" width={SIZE[0]} height={SIZE[1]} />
            </svg>
            <span className="figures">{copy}</span>
          </button>
        ))}
      </div>
    </>
  );
}
