import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import type { SavedState, StandingPiece } from "@/core/draft/draft-view";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import type { ComposerStore } from "./composer-store";

interface HistoryProps {
  readonly store: ComposerStore;
  readonly zone: string;
  readonly onClose: () => void;
}

/** The saved states of a draft, of which one can be brought back. */
export function History({ store, zone, onClose }: HistoryProps) {
  const [states, setStates] = useState<readonly SavedState[] | null>(null);
  const [busy, setBusy] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let isThere = true;
    // What is still on its way belongs to it.
    store
      .saveNow()
      .then(() => ask<SavedState[]>(`${store.path}/states`))
      .then((found) => isThere && setStates(found))
      .catch((error) =>
        setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached"))),
      );
    return () => {
      isThere = false;
    };
  }, [store]);
  const bringBack = async (change: number) => {
    setBusy(change);
    setProblem(null);
    try {
      if (!(await store.saveNow())) throw new Error("not saved");
      store.adopt(await ask<StandingPiece[]>(`${store.path}/states`, { body: { change } }));
      store.tell(t("composer.history.brought-back"));
      onClose();
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
    }
    setBusy(null);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet dialog max-w-xl">
          <Dialog.Title className="font-read text-xl font-medium">{t("composer.history.title")}</Dialog.Title>
          <Dialog.Description className="small mt-1">{t("composer.history.how")}</Dialog.Description>
          {problem && (
            <p role="alert" className="mt-3 border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
              {problem}
            </p>
          )}
          {states === null ? (
            <p className="small mt-4">{t("ui.confirm.one-moment")}</p>
          ) : (
            <ol className="mt-4 max-h-[50vh] divide-y divide-line overflow-y-auto border-y border-line">
              {states.map((state, i) => (
                <li key={state.change} className="flex flex-wrap items-center justify-between gap-3 py-2">
                  <span>
                    {dayAndTime(state.at, zone)}
                    <span className="small block">
                      {t("composer.history.by", { by: state.by, changes: state.changes })}
                    </span>
                  </span>
                  {i === 0 ? (
                    <span className="small">{t("composer.history.as-it-is-now")}</span>
                  ) : (
                    <button
                      type="button"
                      className="button"
                      disabled={busy !== null}
                      onClick={() => void bringBack(state.change)}
                    >
                      {busy === state.change ? t("ui.confirm.one-moment") : t("composer.history.bring-back")}
                    </button>
                  )}
                </li>
              ))}
            </ol>
          )}
          <div className="mt-5 flex justify-end">
            <Dialog.Close className="button">{t("kinds.essay.formula-box.close")}</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
