import { t } from "@/words/t";
import { AllQuestions } from "./AllQuestions";
import { type DeskState, leavingWords, pageOf, tellsOnLeaving } from "./desk-state";
import type { DeskStore } from "./desk-store";
import { QuestionRow } from "./QuestionRow";

interface DeskFooterProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  /** Whether the text is so large that the row needs a line of its own. */
  readonly isLarge: boolean;
  /** Takes the tools out; null while they are. */
  readonly onTools: (() => void) | null;
}

/** More questions than this do not fit beside the buttons: the row has a line of its own. */
const BESIDE = 10;

/** The foot of the desk: back, the row of questions, on, and the way to looking over and handing in. */
export function DeskFooter({ store, state, isLarge, onTools }: DeskFooterProps) {
  const { here, look } = state;
  const { order, sections } = store.view;
  const onFinal = look === "final";
  const page = pageOf(order, here);
  const slots = order.pages[page] ?? [];
  const before = order.rule === "one-way" ? undefined : order.pages[page - 1]?.[0];
  const after = order.pages[page + 1]?.[0];
  const words = onFinal ? null : leavingWords(state, order);
  const tells = tellsOnLeaving(state, order, page);
  const closes = order.rule === "one-way" && page === state.page;
  const turning = state.busy === "turning";
  const go = (slot: number) => store.turning.go(slot);
  const backTo =
    slots.length > 1
      ? t("desk.final-look.from-to", { first: slots[0] ?? 0, last: slots.at(-1) ?? 0 })
      : String(here);
  const isBeside = state.slots.length <= BESIDE && !isLarge;
  const row = <QuestionRow state={state} sections={sections} onGo={go} />;
  return (
    <footer
      className={`border-t border-line bg-sheet px-4 sm:px-8 ${
        // Looking over lists every question itself: there nothing needs to lie over the list on a small screen.
        onFinal ? "" : "max-lg:sticky max-lg:bottom-0 max-lg:z-10"
      }`}
    >
      {words && <p className="small pt-2">{words}</p>}
      <div className={isBeside ? "lg:hidden" : ""}>{row}</div>
      <div className="grid grid-cols-[auto_1fr_auto] items-center gap-x-3 py-2 sm:gap-x-6">
        <div className="flex items-center gap-1 sm:gap-2 lg:min-w-[13.5rem]">
          {onFinal ? (
            <button type="button" className="button" onClick={() => go(here)}>
              <span aria-hidden="true">←</span>
              {t("desk.desk-footer.back", { backTo })}
            </button>
          ) : (
            before !== undefined && (
              <button type="button" className="button" onClick={() => go(before)}>
                <span aria-hidden="true">←</span>
                {t("desk.desk-footer.back-2", { before })}
              </button>
            )
          )}
          <AllQuestions state={state} sections={sections} onGo={go} />
        </div>
        <div className="min-w-0">{isBeside && <div className="max-lg:hidden">{row}</div>}</div>
        <div className="flex flex-wrap items-center justify-end gap-2 sm:gap-3">
          {onTools && !onFinal && (
            <button type="button" data-tools className="button button-quiet max-sm:px-2!" onClick={onTools}>
              {t("desk.desk-footer.tools")}
            </button>
          )}
          {!onFinal && after !== undefined && (
            <button type="button" className="button" disabled={turning} onClick={() => go(after)}>
              {turning ? (
                t("desk.desk-footer.one-moment")
              ) : tells ? (
                t("desk.desk-footer.close-it-see-if-it-is")
              ) : (
                <>
                  {closes
                    ? t("desk.desk-footer.close-go-to", { after })
                    : t("desk.desk-footer.next", { after })}
                  <span aria-hidden="true">→</span>
                </>
              )}
            </button>
          )}
          {!onFinal && (
            <button
              type="button"
              className={`button border-indigo text-indigo ${after === undefined ? "" : "max-sm:hidden"}`}
              disabled={turning}
              onClick={() => store.turning.finish()}
            >
              {after === undefined && tells
                ? t("desk.desk-footer.close-it-see-if-it-is")
                : t("desk.desk-footer.look-over-and-hand-in")}
            </button>
          )}
        </div>
      </div>
    </footer>
  );
}
