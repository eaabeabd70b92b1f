import { type DeskState, leavingWords, pageOf, tellsOnLeaving } from "./desk-state";
import type { DeskStore } from "./desk-store";
import { Shelf } from "./Shelf";
import { Spines } from "./Spines";

interface DeskFooterProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  /** Takes the tools out; null while they are. */
  readonly onTools: (() => void) | null;
}

/** The shelf along the bottom: back, the spines, on, and the final look at its end. */
export function DeskFooter({ store, state, onTools }: DeskFooterProps) {
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
  const go = (slot: number) => store.go(slot);
  const backTo = slots.length > 1 ? `${slots[0]} to ${slots.at(-1)}` : String(here);
  return (
    <footer
      className={`border-t border-line bg-sheet px-4 sm:px-8 ${
        // The final look lists every question itself: there nothing needs to lie over the list on a small screen.
        onFinal ? "" : "max-lg:sticky max-lg:bottom-0 max-lg:z-10"
      }`}
    >
      {state.problem !== null && (
        <p role="alert" className="mt-2 border-l-[3px] border-plum bg-plum-2 px-3 py-1.5 text-plum">
          {state.problem}
        </p>
      )}
      {words && <p className="small pt-2">{words}</p>}
      <div className="sm:hidden">
        <Shelf state={state} onGo={go} />
      </div>
      <div className="grid grid-cols-[auto_1fr_auto] items-end gap-x-3 sm:gap-x-6">
        <div className="flex gap-2 pb-4">
          {(onFinal || order.rule !== "one-way") && (
            <button
              type="button"
              className="button"
              disabled={!onFinal && before === undefined}
              onClick={() => (onFinal ? go(here) : before !== undefined && go(before))}
            >
              <span aria-hidden="true">←</span>
              <span className="sr-only">{onFinal ? "Back to question" : "Previous question,"}</span>
              {onFinal ? backTo : (before ?? "")}
            </button>
          )}
        </div>
        <div className="min-w-0">
          <div className="max-sm:hidden">
            <Spines state={state} sections={sections} onGo={go} />
          </div>
        </div>
        <div className="flex flex-wrap items-center justify-end gap-3 pb-4">
          {onTools && !onFinal && (
            <button type="button" className="button button-quiet" onClick={onTools}>
              Tools
            </button>
          )}
          {!onFinal && after !== undefined && (
            <button type="button" className="button" disabled={turning} onClick={() => go(after)}>
              {turning ? (
                "One moment"
              ) : tells ? (
                "Close it and see"
              ) : closes ? (
                <>Close, go to {after} →</>
              ) : (
                <>
                  <span className="sr-only">Next question,</span>
                  {after}
                  <span aria-hidden="true">→</span>
                </>
              )}
            </button>
          )}
          {!onFinal && (
            <button
              type="button"
              className="button border-indigo text-indigo"
              disabled={turning}
              onClick={() => store.finish()}
            >
              {after === undefined && tells ? "Close it and see" : "Final look"}
            </button>
          )}
        </div>
      </div>
    </footer>
  );
}
