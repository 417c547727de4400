import { Link } from "@tanstack/react-router";
import { Dialog, Switch } from "radix-ui";
import { KEYS, setSingleKeys, useSingleKeys } from "@/state/keys";

export function KeysDialog(props: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const on = useSingleKeys();
  return (
    <Dialog.Root {...props}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-24 left-1/2 z-50 w-[min(420px,92vw)] -translate-x-1/2 rounded-lg border border-line bg-raised p-5"
        >
          <Dialog.Title className="text-[21px]">Keys</Dialog.Title>
          <dl className="mt-3 grid grid-cols-[48px_1fr] gap-y-1.5 text-[15px]">
            {KEYS.map((k) => (
              <div key={k.key} className="contents">
                <dt>
                  <kbd>{k.key}</kbd>
                </dt>
                <dd>{k.does}</dd>
              </div>
            ))}
            <dt>
              <kbd>Enter</kbd>
            </dt>
            <dd>On a figure: its working. On a name: the payer.</dd>
          </dl>
          <div className="mt-4 flex items-center justify-between border-line border-t pt-3 text-[15px]">
            <label htmlFor="single-keys">Single keys act</label>
            <Switch.Root
              id="single-keys"
              checked={on}
              onCheckedChange={setSingleKeys}
              className="h-6 w-11 rounded-full border border-stone bg-sunk data-[state=checked]:bg-action"
            >
              <Switch.Thumb className="block size-5 translate-x-0 rounded-full border border-stone bg-raised data-[state=checked]:translate-x-5" />
            </Switch.Root>
          </div>
          <p className="mt-3 text-[15px]">
            <Link
              to="/glossary"
              className="link underline"
              onClick={() => props.onOpenChange(false)}
            >
              Glossary
            </Link>
            : what the words mean.
          </p>
          <Dialog.Close className="button mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
