import { Dialog } from "radix-ui";
import { useState } from "react";
import { type BankQuestion, holdsWords } from "@/core/draft/bank";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import type { ComposerStore } from "./composer-store";
import type { DraftDeeds } from "./draft-deeds";
import { kindName } from "./kind-names";
import { asNumber } from "./QuestionWritten";
import { topicsOf, useBankLines } from "./use-bank-lines";

/** So many are listed; who looks for one among more writes a word of it. */
const LISTED = 200;

interface FromBankProps {
  readonly store: ComposerStore;
  readonly deeds: DraftDeeds;
  readonly onClose: () => void;
}

/** Questions of the bank, of which some are put into the quiz. */
export function FromBank({ store, deeds, onClose }: FromBankProps) {
  const { lines, problem: unknown } = useBankLines(store);
  const [words, setWords] = useState("");
  const [topic, setTopic] = useState("");
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [follows, setFollows] = useState(true);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const found = (lines ?? []).filter(
    (line) => (topic === "" || line.topic === topic) && holdsWords(line, words),
  );
  const pick = (id: string, is: boolean) => {
    const next = new Set(picked);
    if (is) next.add(id);
    else next.delete(id);
    setPicked(next);
  };
  const putIn = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const body = { ids: [...picked] };
      deeds.putFromBank(await ask<BankQuestion[]>(`${store.path}/bank`, { body }), follows);
      onClose();
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
    }
    setBusy(false);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet dialog w-[min(48rem,94vw)]! max-w-none!">
          <Dialog.Title className="font-read text-xl font-medium">
            {t("composer.from-bank.title")}
          </Dialog.Title>
          <Dialog.Description className="small mt-1">{t("composer.from-bank.how")}</Dialog.Description>
          <p className="mt-3 flex flex-wrap gap-4">
            <input
              type="search"
              className="field min-w-48 flex-1"
              aria-label={t("composer.from-bank.search")}
              placeholder={t("composer.from-bank.search")}
              value={words}
              onChange={({ target }) => setWords(target.value)}
            />
            <select
              className="field w-56"
              aria-label={t("composer.from-bank.topic")}
              value={topic}
              onChange={({ target }) => setTopic(target.value)}
            >
              <option value="">{t("composer.from-bank.any-topic")}</option>
              {topicsOf(lines).map((each) => (
                <option key={each} value={each}>
                  {each}
                </option>
              ))}
            </select>
          </p>
          {(unknown ?? problem) && (
            <p role="alert" className="mt-3 border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
              {unknown ?? problem}
            </p>
          )}
          <p role="status" className="small mt-3">
            {lines === null
              ? t("ui.confirm.one-moment")
              : lines.length === 0
                ? t("composer.from-bank.is-empty")
                : t("composer.from-bank.found", { count: found.length })}
          </p>
          <ul className="mt-1 max-h-[45vh] overflow-y-auto border-y border-line">
            {found.slice(0, LISTED).map((line) => (
              <li key={line.id} className="border-b border-line last:border-b-0">
                <label className="flex cursor-pointer items-start gap-3 py-2">
                  <input
                    type="checkbox"
                    className="mt-1 size-[1.125rem] shrink-0 accent-indigo"
                    checked={picked.has(line.id)}
                    onChange={({ target }) => pick(line.id, target.checked)}
                  />
                  <span className="min-w-0 flex-1">
                    {line.words === "" ? t("composer.from-bank.no-words") : line.words}
                    <span className="small block">
                      {[
                        line.topic,
                        ...line.tags,
                        kindName(line.kind),
                        t("composer.question-written.marks", { marks: asNumber(line.marks) }),
                        ...(line.from === null ? [] : [t("composer.from-bank.of", { course: line.from })]),
                      ].join(t("joint.dots"))}
                    </span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
          <label className="mt-4 flex items-start gap-3">
            <input
              type="checkbox"
              className="mt-1 size-[1.125rem] accent-indigo"
              checked={follows}
              onChange={({ target }) => setFollows(target.checked)}
            />
            <span>
              {t("composer.from-bank.follow")}
              <span className="small block">{t("composer.from-bank.follow-hint")}</span>
            </span>
          </label>
          <div className="mt-4 flex flex-wrap justify-end gap-3">
            <Dialog.Close className="button">{t("kinds.essay.formula-box.close")}</Dialog.Close>
            <button
              type="button"
              className="button button-main"
              disabled={busy || picked.size === 0}
              onClick={() => void putIn()}
            >
              {busy ? t("ui.confirm.one-moment") : t("composer.from-bank.put-in", { count: picked.size })}
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
