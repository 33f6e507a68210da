/** What is laid over the screen for a while: a title, what is in it, and the ways out of it. */
import { Dialog } from "radix-ui";
import type { ReactElement, ReactNode } from "react";

const WIDTHS = {
  narrow: "w-[min(38rem,94vw)]",
  middling: "w-[min(42rem,94vw)]",
  wide: "w-[min(60rem,94vw)]",
  widest: "w-[min(76rem,96vw)]",
  own: "max-w-[94vw]",
} as const;

export type PanelProps = {
  title: ReactNode;
  /** The key that opens it. */
  trigger: ReactElement;
  width?: keyof typeof WIDTHS;
  open?: boolean;
  onOpen?: (open: boolean) => void;
  /** Beside the title. */
  beside?: ReactNode;
  foot?: ReactNode;
  children: ReactNode;
};

/** A panel over the screen; escape, or a touch beside it, closes it. */
export function Panel({
  title,
  trigger,
  width = "middling",
  open,
  onOpen,
  beside,
  foot,
  children,
}: PanelProps) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Trigger asChild>{trigger}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-1/2 left-1/2 z-20 flex max-h-[94vh] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg border border-hair bg-raised px-7 py-5 text-ink max-sm:px-4 ${WIDTHS[width]}`}
        >
          <div className="flex items-center justify-between gap-4">
            <Dialog.Title className="text-[26px] leading-tight font-bold">{title}</Dialog.Title>
            {beside}
          </div>
          <div className="-mx-2 min-h-0 overflow-y-auto px-2 pb-1">{children}</div>
          {foot !== undefined && <div className="mt-5 flex flex-wrap justify-end gap-3">{foot}</div>}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What closes the panel that it stands in. */
export function Closing({ children }: { children: ReactElement }) {
  return <Dialog.Close asChild>{children}</Dialog.Close>;
}
