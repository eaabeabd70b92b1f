import { ChevronUp } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import type { DeskState } from "./desk-state";
import { Spine } from "./Spine";

interface ShelfProps {
  readonly state: DeskState;
  readonly onGo: (slot: number) => void;
}

/** On a small screen the spines stand on a shelf that is pulled up from the bottom edge. */
export function Shelf({ state, onGo }: ShelfProps) {
  const [open, setOpen] = useState(false);
  const begun = state.slots.filter(({ fill }) => fill.state !== "empty").length;
  const folded = state.slots.filter((slot) => slot.folded).length;
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="button button-quiet min-h-11 w-full justify-between border-0 px-1! font-normal">
        <span>
          <b>All questions</b> · {begun} of {state.slots.length} answered
          {folded > 0 && ` · ${folded} folded`}
        </span>
        <ChevronUp aria-hidden="true" className="size-5" />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content
          aria-describedby={undefined}
          className="sheet fixed inset-x-0 bottom-0 z-50 max-h-[80dvh] overflow-y-auto rounded-b-none px-4 pt-4 pb-6 shadow-lg"
        >
          <div className="flex items-center justify-between">
            <Dialog.Title className="font-read text-xl font-medium">All questions</Dialog.Title>
            <Dialog.Close className="button button-quiet">Put back</Dialog.Close>
          </div>
          <nav aria-label="Questions on the shelf">
            <ol className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(2.75rem,1fr))] items-end gap-x-2 gap-y-3">
              {state.slots.map((spine, i) => (
                <li
                  // biome-ignore lint/suspicious/noArrayIndexKey: a slot is its place
                  key={i}
                  className="grid justify-items-center border-b border-line-2"
                >
                  <Spine
                    slot={i + 1}
                    spine={spine}
                    here={state.look === "question" && state.here === i + 1}
                    onGo={(slot) => {
                      setOpen(false);
                      onGo(slot);
                    }}
                  />
                </li>
              ))}
            </ol>
          </nav>
          <p className="small mt-4">
            Inked foot: answered. Half a foot: partly. Folded corner: come back. Crossed: closed. Dashed: not
            on the server yet.
          </p>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
