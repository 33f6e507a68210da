/** A part dragged on the picture: it follows the hand, and is put down where the hand lets go. */
import { type PointerEvent, useState } from "react";
import type { Picture } from "../api/types";
import { type Move, snapped } from "./drag";
import type { View } from "./views";

/** A hand that moves less than so many pixels chooses the part and does not move it. */
export const SLIP_PX = 4;

export type PointerProps = {
  onPointerDown: (event: PointerEvent<SVGGElement>) => void;
  onPointerMove: (event: PointerEvent<SVGGElement>) => void;
  onPointerUp: (event: PointerEvent<SVGGElement>) => void;
  onPointerCancel: (event: PointerEvent<SVGGElement>) => void;
};

type Dragged = { part: string; from: readonly [number, number]; move: Move | null };

/** How far a move takes a part on the sheet of a view, mm. */
export const shiftOf = (move: Move, view: View): readonly [number, number] =>
  view === "front" ? [move.x, -move.z] : [move.x, move.y];

export function useDragging(
  picture: Picture,
  view: View,
  unit: number,
  onMove: ((part: string, move: Move) => void) | undefined,
) {
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const hold = (part: string): PointerProps => ({
    onPointerDown: (event) => {
      if (event.button !== 0) return;
      event.currentTarget.setPointerCapture?.(event.pointerId);
      setDragged({ part, from: [event.clientX, event.clientY], move: null });
    },
    onPointerMove: (event) => {
      if (!dragged) return;
      const px = [event.clientX - dragged.from[0], event.clientY - dragged.from[1]] as const;
      if (!dragged.move && Math.hypot(...px) < SLIP_PX) return;
      const mm = sheetMm(event.currentTarget);
      setDragged({ ...dragged, move: snapped(picture, part, view, [px[0] * mm, px[1] * mm], unit) });
    },
    onPointerUp: () => {
      if (dragged?.move) onMove?.(part, dragged.move);
      setDragged(null);
    },
    onPointerCancel: () => setDragged(null),
  });
  const moving = dragged?.move ? { part: dragged.part, move: dragged.move } : null;
  return { moving, hold };
}

/** How many mm of the sheet a pixel of the screen is. */
export function sheetMm(element: SVGGElement): number {
  const scale = element.ownerSVGElement?.getScreenCTM?.()?.a;
  return scale ? 1 / scale : 1;
}
