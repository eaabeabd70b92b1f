import { AlertDialog } from "radix-ui";
import { t } from "@/words/t";
import { timeWithSeconds } from "@/words/times";
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
            {t("desk.hand-in-waits.your-hand-in-waits-for-the")}
          </AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-3 grid gap-2" role="status">
              <p>
                {pressedAt !== null &&
                  t("desk.hand-in-waits.pressed", { timeWithSeconds: timeWithSeconds(pressedAt, zone) })}
                {t("desk.hand-in-waits.nothing-is-lost-everything-is-kept")}
              </p>
              {deadline !== null && (
                <p>
                  {t("desk.hand-in-waits.if-your-time-ends-first-the", {
                    timeWithSeconds: timeWithSeconds(deadline, zone),
                  })}
                </p>
              )}
            </div>
          </AlertDialog.Description>
          <div className="mt-6 flex flex-wrap justify-end gap-3">
            <AlertDialog.Cancel className="button" onClick={() => store.handingIn.keepWorking()}>
              {t("desk.hand-in-waits.keep-working-instead")}
            </AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
