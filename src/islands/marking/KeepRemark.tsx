import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

interface KeepRemarkProps {
  readonly text: string;
  readonly onKeep: (keep: { short: string; text: string; shared: boolean }) => Promise<void>;
  readonly onDone: () => void;
}

/** The first letters of a text, as a short name to begin with. */
const shortFor = (text: string): string => /[\p{L}\p{N}]+/u.exec(text)?.[0]?.toLowerCase().slice(0, 12) ?? "";

/** Keeps what was written as a remark, to be brought in again by a stroke and its short name. */
export function KeepRemark({ text, onKeep, onDone }: KeepRemarkProps) {
  const [short, setShort] = useState(shortFor(text));
  const [words, setWords] = useState(text);
  const [shared, setShared] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await onKeep({ short: short.trim(), text: words.trim(), shared });
      onDone();
    } catch (error) {
      setProblem(refusalOr(error, t("marking.room-store.the-server-cannot-be-reached")));
    }
  };
  return (
    <Dialog.Portal>
      <Dialog.Overlay className="veil" />
      <Dialog.Content className="sheet dialog">
        <Dialog.Title className="font-read text-xl font-medium">
          {t("marking.keep-remark.keep-a-remark")}
        </Dialog.Title>
        <Dialog.Description className="mt-2 text-ink-2">
          {t("marking.keep-remark.brought-in-by-a-stroke")}
        </Dialog.Description>
        <form className="mt-4 grid gap-4" onSubmit={keep}>
          <label className="grid gap-1.5 font-bold">
            {t("marking.keep-remark.short-name")}
            <input
              className="field font-normal"
              value={short}
              maxLength={20}
              required
              onChange={(event) => setShort(event.target.value)}
            />
          </label>
          <label className="grid gap-1.5 font-bold">
            {t("marking.keep-remark.the-remark")}
            <textarea
              className="field font-normal"
              rows={3}
              value={words}
              maxLength={1_000}
              required
              onChange={(event) => setWords(event.target.value)}
            />
          </label>
          <label className="flex items-center gap-2.5">
            <input
              type="checkbox"
              className="size-5"
              checked={shared}
              onChange={(event) => setShared(event.target.checked)}
            />
            {t("marking.keep-remark.share-it-with-the-markers")}
          </label>
          {problem && (
            <p role="alert" className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
              {problem}
            </p>
          )}
          <div className="flex justify-end gap-3">
            <Dialog.Close className="button">{t("keeping.sign-in-again.not-now")}</Dialog.Close>
            <button type="submit" className="button button-main">
              {t("marking.keep-remark.keep-it")}
            </button>
          </div>
        </form>
      </Dialog.Content>
    </Dialog.Portal>
  );
}
