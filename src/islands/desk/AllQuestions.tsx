import { Dialog } from "radix-ui";
import { useRef, useState } from "react";
import type { DeskView } from "@/core/desk/desk-view";
import { headingOf } from "@/core/kinds/answering";
import { t } from "@/words/t";
import { DrawnWords } from "../kinds/DrawnWords";
import { type DeskState, placedSections, savedCount } from "./desk-state";
import { fillWords } from "./entry-words";

interface AllQuestionsProps {
  readonly state: DeskState;
  readonly sections: DeskView["sections"];
  readonly onGo: (slot: number) => void;
}

/** How many answers are saved; pressed, all questions with their first words, like a table of contents. */
export function AllQuestions({ state, sections, onGo }: AllQuestionsProps) {
  const [open, setOpen] = useState(false);
  const went = useRef(false);
  const { saved, of } = savedCount(state);
  const titles = new Map(
    placedSections(sections).flatMap(({ first, title }) => (title ? [[first, title] as const] : [])),
  );
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger
        className="button button-quiet px-2! font-normal whitespace-nowrap"
        aria-label={t("desk.all-questions.of-saved-all-questions", { saved, of })}
      >
        {t("desk.all-questions.of-saved", { saved, of })}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content
          aria-describedby={undefined}
          className="sheet dialog max-w-[34rem]"
          // The focus goes to the question that was chosen, and only else back to where it was.
          onCloseAutoFocus={(event) => {
            if (went.current) event.preventDefault();
            went.current = false;
          }}
        >
          <div className="flex items-center justify-between gap-4">
            <Dialog.Title className="font-read text-xl font-medium">
              {t("desk.all-questions.all-questions")}
            </Dialog.Title>
            <Dialog.Close className="button button-quiet">{t("desk.all-questions.close")}</Dialog.Close>
          </div>
          <nav aria-label={t("desk.all-questions.questions-with-their-first-words")}>
            <ol className="mt-3 border-t border-line">
              {state.slots.map((record, i) => {
                const slot = i + 1;
                const isHere = state.look === "question" && state.here === slot;
                const isShut = record.access !== "open" && !record.question;
                return (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a slot is its place
                  <li key={i}>
                    {titles.has(slot) && <p className="label pt-4 pb-1">{titles.get(slot)}</p>}
                    <button
                      type="button"
                      aria-current={isHere ? "step" : undefined}
                      aria-disabled={isShut ? true : undefined}
                      className="grid min-h-11 w-full grid-cols-[2rem_minmax(0,1fr)] items-baseline gap-x-2 border-b border-line py-2 text-left hover:bg-sunk/50 sm:grid-cols-[2rem_minmax(0,1fr)_auto]"
                      onClick={() => {
                        went.current = true;
                        setOpen(false);
                        onGo(slot);
                      }}
                    >
                      <span
                        className={`font-read text-lg ${isHere ? "font-semibold text-ink" : "text-indigo"}`}
                      >
                        {slot}
                      </span>
                      {record.question ? (
                        <DrawnWords html={headingOf(record.question)} className="reading truncate" />
                      ) : (
                        <span className="text-ink-2">
                          {record.access === "ahead"
                            ? t("desk.all-questions.not-open-yet")
                            : t("desk.entry-words.closed")}
                        </span>
                      )}
                      <span className="small max-sm:col-start-2">
                        {[
                          isHere ? t("desk.entry-words.here") : "",
                          record.question ? fillWords(record) : "",
                          record.ribbon ? t("desk.final-look.ribbon") : "",
                          record.saved ? "" : t("desk.all-questions.not-on-the-server-yet"),
                        ]
                          .filter(Boolean)
                          .join(" · ")}
                      </span>
                    </button>
                  </li>
                );
              })}
            </ol>
          </nav>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
