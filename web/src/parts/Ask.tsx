import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";

export type AskProps = {
  open: boolean;
  title: string;
  children: ReactNode;
  yes: string;
  onYes: () => void;
  onClose: () => void;
  no?: string;
  ready?: boolean;
};

/** A question that must be answered first: only for what cannot be undone. */
export function Ask({ open, title, children, yes, onYes, onClose, no, ready = true }: AskProps) {
  return (
    <Dialog.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/50" />
        <Dialog.Content className="fixed top-1/3 z-20 left-1/2 w-[min(28rem,90vw)] -translate-x-1/2 rounded-lg border border-hair bg-raised p-6 text-ink">
          <Dialog.Title className="text-xl font-semibold">{title}</Dialog.Title>
          <Dialog.Description asChild>
            <div className="mt-2 text-quiet">{children}</div>
          </Dialog.Description>
          <div className="mt-6 flex justify-end gap-3">
            <Button onClick={onClose}>{no ?? "No, go on"}</Button>
            <Button look="main" disabled={!ready} onClick={onYes}>
              {yes}
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
