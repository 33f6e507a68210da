import { Popover } from "radix-ui";
import type { HouseOverrides, PieceView } from "../api/types";
import { HouseChoices } from "../bench/HouseChoices";
import type { Edits } from "../document/useEdits";
import { Button } from "../parts/Button";

export type HousePocketProps = { view: PieceView; edits: Edits };

/** The house rules that this piece sets for itself; what it leaves follows the bench. */
export function HousePocket({ view, edits }: HousePocketProps) {
  const own = view.document.house;
  const set = Object.values(own).filter((value) => value != null).length;
  const change = (what: HouseOverrides) =>
    edits.apply("changed a house rule", (now) => ({ ...now, house: { ...now.house, ...what } }));
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button look="bare" className="!px-2.5">
          House rules{set > 0 ? `, ${String(set)} own` : ""}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-20 max-h-[70dvh] w-96 overflow-y-auto rounded-lg border border-hair bg-raised p-4"
        >
          <HouseChoices house={view.house} own={own} follows="as the bench" onChange={change} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
