import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";

type Props = {
  open: boolean;
  onClose: () => void;
  title: string;
  lead?: ReactNode;
  children: ReactNode;
};

/** A sheet of paper over the page; from the bottom on a phone, where the thumb is. */
export function Dialog({ open, onClose, title, lead, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-iron/60" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed inset-x-0 bottom-0 z-50 max-h-[92dvh] overflow-y-auto border-line border-t-4 bg-paper p-5 wide:inset-x-auto wide:top-14 wide:bottom-auto wide:max-h-[calc(100dvh-5rem)] wide:left-1/2 wide:w-[34rem] wide:-translate-x-1/2 wide:border-2 wide:p-6"
        >
          <div className="flex items-start justify-between gap-4">
            <Radix.Title className="text-2xl">{title}</Radix.Title>
            <Radix.Close className="-mt-1 -mr-2 min-h-11 px-3 text-slate underline underline-offset-4">
              Close
            </Radix.Close>
          </div>
          {lead && <div className="mt-1 text-lg text-slate">{lead}</div>}
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
