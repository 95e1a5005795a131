/** A window over the page, for what is not an everyday edit: revisions, conflicts, the list of keys. Closed, it is not there. */
import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";
import { Button } from "./Button";

export function Window({
  title,
  open,
  onClose,
  wide = false,
  children,
}: {
  title: string;
  open: boolean;
  onClose: () => void;
  wide?: boolean;
  children: ReactNode;
}) {
  if (!open) return null;
  return (
    <Dialog open onClose={onClose} className="relative z-20">
      <DialogBackdrop className="fixed inset-0 bg-black/45" />
      <div className="fixed inset-0 flex items-start justify-center p-4 pt-[8vh]">
        <DialogPanel
          className={`flex max-h-[80vh] w-full flex-col border-t-4 border-copper bg-sheet shadow-xl ${wide ? "max-w-4xl" : "max-w-2xl"}`}
        >
          <div className="flex items-baseline justify-between border-b border-rule px-4 py-2">
            <DialogTitle className="wide text-base font-bold">{title}</DialogTitle>
            <Button kind="quiet" onClick={onClose}>
              Close
            </Button>
          </div>
          <div className="overflow-auto px-4 py-3">{children}</div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
