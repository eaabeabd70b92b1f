import { Dialog } from "radix-ui";
import { t } from "@/words/t";
import { type KeysHere, keysHere } from "./keys";

interface KeysDialogProps {
  /** What keys can do where one is; null: it is not asked for. */
  readonly keys: KeysHere | null;
  readonly onClose: () => void;
}

/** The keys that do something where one is, and no others. */
export function KeysDialog({ keys, onClose }: KeysDialogProps) {
  return (
    <Dialog.Root open={keys !== null} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content aria-describedby={undefined} className="sheet dialog max-w-[30rem]">
          <Dialog.Title className="font-read text-xl font-medium">
            {t("desk.keys-dialog.keys-that-work-here")}
          </Dialog.Title>
          <dl className="mt-4 border-t border-line">
            {keys &&
              keysHere(keys).map(([names, what]) => (
                <div key={names} className="flex justify-between gap-6 border-b border-line py-2">
                  <dt className="font-bold whitespace-nowrap">{names}</dt>
                  <dd className="text-right text-ink-2">{what}</dd>
                </div>
              ))}
          </dl>
          <p className="small mt-3">{t("desk.keys-dialog.in-a-text-field-every-key")}</p>
          <Dialog.Close className="button mt-5">{t("desk.keys-dialog.back-to-the-question")}</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
