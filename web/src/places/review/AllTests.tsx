import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import type { Review } from "@/api/client";
import { CushionList } from "@/ui/CushionList";

interface Props {
  review: Review;
  className: string;
  children: ReactNode;
}

/** What opens all tests of the payer together, the required ones first, each by the smallest cushion. */
export function AllTests({ review, className, children }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className={className}>{children}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-16 left-1/2 z-40 max-h-[84vh] w-[min(860px,96vw)] -translate-x-1/2 overflow-y-auto rounded-lg border border-line bg-paper p-6"
        >
          <div className="mb-3 flex items-baseline justify-between">
            <Dialog.Title className="text-[21px]">
              All tests: {review.passed} of {review.tests.length} pass
            </Dialog.Title>
            <Dialog.Close className="link">Close</Dialog.Close>
          </div>
          <CushionList tests={review.tests} caption="Every test of this payer" />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
