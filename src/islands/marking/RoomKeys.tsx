import { Dialog } from "radix-ui";
import { t } from "@/words/t";

interface RoomKeysProps {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
}

/** All that keys do in the marking room. */
export function RoomKeys({ open, onOpenChange }: RoomKeysProps) {
  const keys: readonly (readonly [string, string])[] = [
    ["1 – 9", t("marking.room-keys.pick-that-level")],
    ["0 – 9", t("marking.room-keys.without-a-rubric-begin-the-marks")],
    ["↑ ↓", t("marking.room-keys.criterion-above-or-below")],
    ["N", t("marking.room-keys.next-that-awaits")],
    ["J, K", t("marking.room-keys.the-answer-after-or-before")],
    ["M", t("marking.room-keys.a-note-beside-the-selected-words")],
    ["F", t("marking.room-keys.write-on-the-whole-question")],
    ["/", t("marking.room-keys.in-a-field-bring-in-a-remark")],
    ["Z", t("marking.room-keys.undo")],
    ["Esc", t("marking.room-keys.leave-a-field")],
    [t("marking.room-keys.ctrl-s"), t("marking.room-keys.save-now")],
  ];
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet dialog" aria-describedby={undefined}>
          <Dialog.Title className="font-read text-xl font-medium">
            {t("marking.room-keys.keys-in-the-marking-room")}
          </Dialog.Title>
          <dl className="mt-4 grid grid-cols-[5rem_1fr] gap-y-2">
            {keys.map(([key, what]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="key">{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-5 flex justify-end">
            <Dialog.Close className="button">{t("marking.room-keys.close")}</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
