import { Dialog } from "radix-ui";
import { useDeferredValue, useMemo, useRef } from "react";
import { asWritten } from "@/core/draft/blank";
import { outlineOf, questionOf } from "@/core/draft/pieces";
import { readPlain, writtenQuestions } from "@/core/plain-form/plain-form";
import { say, t } from "@/words/t";
import type { ComposerStore } from "./composer-store";
import type { DraftDeeds } from "./draft-deeds";

/** So many mistakes are listed; who sees these begins with the first. */
const LISTED = 30;

interface QuickWritingProps {
  readonly store: ComposerStore;
  readonly deeds: DraftDeeds;
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly onClose: () => void;
}

/** Many questions written, or pasted, as lines of text; put in together as one step that can be undone. */
export default function QuickWriting({ store, deeds, text, onText, onClose }: QuickWritingProps) {
  const box = useRef<HTMLTextAreaElement>(null);
  const settled = useDeferredValue(text);
  const reading = useMemo(() => readPlain(settled), [settled]);
  const { mistakes, questions, head } = reading;
  const isReady = settled === text && questions > 0 && mistakes.length === 0;
  const toLine = (line: number) => {
    const lines = text.split("\n");
    const from = lines.slice(0, line - 1).reduce((sum, each) => sum + each.length + 1, 0);
    const field = box.current;
    field?.focus();
    field?.setSelectionRange(from, from + (lines[line - 1]?.length ?? 0));
    // The box shows the line that is meant.
    if (field) field.scrollTop = (field.scrollHeight / Math.max(1, lines.length)) * Math.max(0, line - 4);
  };
  const putIn = () => {
    deeds.putSections(reading.sections, t("composer.quick-writing.putting-in"));
    store.tell(t("composer.quick-writing.is-put-in", { count: questions }));
    onText("");
    onClose();
  };
  const thisQuiz = () => {
    const { pieces } = store.state();
    const all = outlineOf(pieces).sections.flatMap((section) =>
      section.questions.flatMap((slot) => {
        const question = questionOf(pieces, slot);
        return question ? [asWritten(question)] : [];
      }),
    );
    onText(`${writtenQuestions(all)}\n`);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet dialog w-[min(56rem,94vw)]! max-w-none!">
          <Dialog.Title className="font-read text-xl font-medium">
            {t("composer.quick-writing.title")}
          </Dialog.Title>
          <Dialog.Description className="small mt-1">{t("composer.quick-writing.how")}</Dialog.Description>
          <textarea
            ref={box}
            className="field mt-3 h-[42vh] w-full resize-y font-mono text-sm leading-6"
            aria-label={t("composer.quick-writing.the-text")}
            aria-describedby="quick-mistakes"
            aria-invalid={mistakes.length > 0}
            spellCheck={false}
            value={text}
            onChange={({ target }) => onText(target.value)}
          />
          {text === "" && (
            <p className="mt-1 flex flex-wrap gap-x-5 text-sm">
              <button
                type="button"
                className="min-h-6 underline"
                onClick={() => onText(t("composer.quick-writing.example-text"))}
              >
                {t("composer.quick-writing.example")}
              </button>
              <button type="button" className="min-h-6 underline" onClick={thisQuiz}>
                {t("composer.quick-writing.this-quiz")}
              </button>
            </p>
          )}
          <details className="mt-1 text-sm">
            <summary className="small min-h-6 cursor-pointer">
              {t("composer.quick-writing.words-title")}
            </summary>
            <p className="mt-1 font-mono text-[0.8125rem]">{t("composer.quick-writing.words")}</p>
          </details>
          <div id="quick-mistakes" role="status" className="mt-2 min-h-12 text-[0.9375rem]">
            {questions === 0 && mistakes.length === 0 ? (
              <p className="text-ink-2">{t("composer.quick-writing.nothing-yet")}</p>
            ) : (
              <p>
                {t("composer.quick-writing.questions", { count: questions })}
                {mistakes.length > 0 && (
                  <span className="text-plum">
                    {t("joint.commas")}
                    {t("composer.quick-writing.mistakes", { count: mistakes.length })}
                  </span>
                )}
              </p>
            )}
            {head && <p className="text-ochre">{t("composer.quick-writing.head-stays-out")}</p>}
          </div>
          {mistakes.length > 0 && (
            <ol className="max-h-40 overflow-y-auto border-y border-line">
              {mistakes.slice(0, LISTED).map(({ line, words }, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: the list is made anew with each text
                <li key={i} className="border-b border-line last:border-b-0">
                  <button
                    type="button"
                    className="flex w-full gap-3 py-1 text-left text-sm hover:text-indigo"
                    onClick={() => toLine(line)}
                  >
                    <span className="w-16 shrink-0 text-ink-2 tabular-nums">
                      {t("composer.quick-writing.line", { line })}
                    </span>
                    <span className="text-plum">{say(words)}</span>
                  </button>
                </li>
              ))}
              {mistakes.length > LISTED && (
                <li className="small py-1">
                  {t("composer.quick-writing.and-more", { count: mistakes.length - LISTED })}
                </li>
              )}
            </ol>
          )}
          <div className="mt-4 flex flex-wrap justify-end gap-3">
            <Dialog.Close className="button">{t("kinds.essay.formula-box.close")}</Dialog.Close>
            <button type="button" className="button button-main" disabled={!isReady} onClick={putIn}>
              {t("composer.quick-writing.put-in", { count: questions })}
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
