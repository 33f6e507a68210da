import { Tooltip } from "radix-ui";
import { cloneElement, type ReactElement, useState } from "react";

export type TipProps = { words: string; children: ReactElement<{ "aria-description"?: string }> };

/** Words that stand beside what is pointed at, or has the focus, for a moment: what is cut off, what a button would undo. */
export function Tip({ words, children }: TipProps) {
  const [open, setOpen] = useState(false);
  return (
    <Tooltip.Provider delayDuration={350}>
      <Tooltip.Root open={open && Boolean(words)} onOpenChange={setOpen}>
        <Tooltip.Trigger asChild>
          {cloneElement(children, { "aria-description": words || undefined })}
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={6}
            collisionPadding={8}
            className="z-50 max-w-96 rounded-md bg-lit px-3 py-1.5 text-[15px] text-on-lit shadow-lg"
          >
            {words}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
