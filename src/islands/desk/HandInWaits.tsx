import { AlertDialog } from "radix-ui";
import { timeWithSeconds } from "@/core/time/words";
import type { DeskState } from "./desk-state";
import type { DeskStore } from "./desk-store";

/** Handing in was pressed, and the server cannot be reached: it waits in sight, and goes by itself. */
export function HandInWaits({ store, state }: { readonly store: DeskStore; readonly state: DeskState }) {
  const { phase, deadline } = state;
  const pressedAt = phase.kind === "hand-in-waits" ? phase.pressedAt : null;
  const { zone } = store.view;
  return (
    <AlertDialog.Root open={state.phase.kind === "hand-in-waits"}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="veil" />
        <AlertDialog.Content className="sheet dialog">
          <AlertDialog.Title className="font-read text-xl font-medium">
            Your hand-in waits for the connection
          </AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-3 grid gap-2" role="status">
              <p>
                {pressedAt !== null && `Pressed ${timeWithSeconds(pressedAt, zone)}. `}
                Nothing is lost: everything is kept on this device, and it is handed in by itself as soon as
                the server can be reached. Leave this page open if you can.
              </p>
              {deadline !== null && (
                <p>
                  If your time ends first, {timeWithSeconds(deadline, zone)}, the clock hands in what the
                  server has; what this device still holds goes to your instructor as late writing.
                </p>
              )}
            </div>
          </AlertDialog.Description>
          <div className="mt-6 flex flex-wrap justify-end gap-3">
            <AlertDialog.Cancel className="button" onClick={() => store.keepWorking()}>
              Keep working instead
            </AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
