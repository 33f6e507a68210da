import { useBench } from "../api/queries";
import type { Picture } from "../api/types";
import { barFor } from "../parts/scaleBar";
import { useUnits } from "../parts/useUnits";
import { CourseHandles, type CourseHandlesProps } from "./CourseHandles";
import { Batch, DrawnPart, Letter, Outline } from "./DrawnPart";
import type { Move } from "./drag";
import { type FlameAim, FlameAt, type FlameAtProps } from "./FlameAt";
import { JoinMark } from "./JoinMark";
import { shiftOf, useDragging } from "./useDragging";
import { type Seen, seenFrom, type View } from "./views";

export type Selection = { kind: "part" | "join" | "work"; id: string } | null;
export type PictureViewProps = {
  picture: Picture;
  /** How large it is shown, in pixels; lines and marks keep their thickness by it. */
  size?: readonly [width: number, height: number];
  plain?: boolean;
  /** From where it is seen: from above, from the front, or both side by side at one scale. */
  views?: readonly View[];
  selected?: Selection;
  titles?: Record<string, string>;
  /** Letters that stand on the parts, by part: what is pointed at by keys. */
  letters?: Record<string, string>;
  onSelect?: (selection: Selection) => void;
  /** Told of a part that is moved, by hand or by keys. */
  onMove?: (part: string, move: Move) => void;
  /** Where the flame goes. */
  flame?: FlameAim | null;
  /** The points of the chosen part that can be dragged, as they are drawn from above. */
  course?: Pick<CourseHandlesProps, "points" | "closed" | "onChange"> | null;
};

const USUAL = [640, 400] as const;
const ABOVE: readonly View[] = ["above"];

/** A piece drawn to scale: wire as bands, edges as thin lines, what lies under thinner, joins as numbered marks. */
export function PictureView({
  picture,
  size = USUAL,
  plain,
  views = ABOVE,
  selected,
  titles = {},
  letters,
  onSelect,
  onMove,
  course,
  flame = null,
}: PictureViewProps) {
  const { seen, width, height, unit } = seenFrom(picture, views, size);
  const margin = unit * (plain ? 3 : 30);
  const box = [-margin, -margin, width + 2 * margin, height + 2 * margin];
  return (
    <svg
      viewBox={box.join(" ")}
      className="h-full w-full"
      role={plain ? undefined : "group"}
      aria-label={plain ? undefined : "The piece to scale"}
    >
      {seen.map((one, n) => (
        <g key={one.view} transform={`translate(${String(one.x)} ${String(one.y)})`}>
          <DrawnView
            seen={one}
            unit={unit}
            plain={plain === true}
            selected={selected ?? null}
            titles={titles}
            letters={letters}
            // Both views show the same joins: the keyboard goes through them once.
            reached={n === 0}
            onSelect={onSelect}
            picture={picture}
            onMove={letters ? undefined : onMove}
            course={!letters && one.view === "above" ? course : null}
            flame={flame}
          />
        </g>
      ))}
      {!plain && <ScaleBar x={box[0] ?? 0} y={(box[1] ?? 0) + (box[3] ?? 0)} unit={unit} />}
    </svg>
  );
}

type DrawnViewProps = {
  seen: Seen;
  unit: number;
  plain: boolean;
  selected: Selection;
  titles: Record<string, string>;
  letters: Record<string, string> | undefined;
  reached: boolean;
  onSelect: ((selection: Selection) => void) | undefined;
  picture: Picture;
  onMove: ((part: string, move: Move) => void) | undefined;
  course: PictureViewProps["course"];
  flame: FlameAim | null;
};

function DrawnView(props: DrawnViewProps) {
  const { seen, unit, plain, selected, titles, letters, reached, onSelect, picture, onMove, course, flame } =
    props;
  const { moving, hold } = useDragging(picture, seen.view, unit, onMove);
  const among = selected?.kind === "join" ? selected.id : null;
  return (
    <>
      {seen.parts.map((part) => (
        <DrawnPart
          key={part.node}
          part={part}
          unit={unit}
          lit={selected?.kind === "part" && selected.id === part.part}
          title={titles[part.part] ?? part.part}
          onSelect={onSelect && (() => onSelect({ kind: "part", id: part.part }))}
          reached={reached}
          moved={moving?.part === part.part ? shiftOf(moving.move, seen.view) : null}
          hold={hold}
          onMove={onMove && ((move) => onMove(part.part, move))}
        />
      ))}
      {seen.parts.map((part) => (
        <Outline key={part.node} part={part} unit={unit} />
      ))}
      {flame && <Flame seen={seen} unit={unit} flame={flame} />}
      {!plain &&
        seen.joins.flatMap((mark) =>
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
              reached={reached}
            />
          )),
        )}
      {seen.parts.map((part) => part.alike > 1 && <Batch key={part.node} part={part} unit={unit} />)}
      {course && <CourseHandles {...course} unit={unit} />}
      {letters && seen.parts.map((part) => <Letter key={part.node} part={part} unit={unit} of={letters} />)}
    </>
  );
}

/** The flame in the torch's hand: the left, where the house picks with the right. */
function Flame(props: Omit<FlameAtProps, "side">) {
  const handed = useBench().data?.house.handed;
  return <FlameAt {...props} side={handed === "left" ? "right" : "left"} />;
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
