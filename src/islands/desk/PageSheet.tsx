import { t } from "@/words/t";
import type { PendingFile } from "../keeping/file-queue";
import { type DeskState, pageOf, placedSections } from "./desk-state";
import type { DeskStore } from "./desk-store";
import { QuestionSheet } from "./QuestionSheet";

interface PageSheetProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  /** Whether the page is alive: before that nothing could be kept, so nothing can be written. */
  readonly ready: boolean;
}

const NONE: readonly PendingFile[] = [];
/** The same empty list each time, so that a sheet without files is not drawn anew. */
const filesOf = (files: readonly PendingFile[], slot: number) => {
  const own = files.filter((file) => file.slot === slot);
  return own.length > 0 ? own : NONE;
};

/** The page on the desk: one question, a section, or all of them. */
export function PageSheet({ store, state, ready }: PageSheetProps) {
  const { order, sections } = store.view;
  const slots = order.pages[pageOf(order, state.here)] ?? [state.here];
  const titles = new Map(
    placedSections(sections).flatMap(({ first, title }) => (title ? [[first, title] as const] : [])),
  );
  return (
    <div data-page className="grid grid-cols-[minmax(0,1fr)] gap-y-14">
      {slots.map((slot, place) => {
        const record = state.slots[slot - 1];
        if (!record) return null;
        const before = state.slots[(slots[place - 1] ?? 0) - 1]?.question?.stimulus;
        return (
          <div key={slot}>
            {titles.has(slot) && <p className="label mb-4 sm:pl-[5.25rem]">{titles.get(slot)}</p>}
            <QuestionSheet
              store={store}
              slot={slot}
              record={record}
              count={state.slots.length}
              ready={ready}
              pictures={state.pictures}
              files={filesOf(state.files, slot)}
              refused={state.refusals.find((each) => each.slot === slot)?.sentence ?? null}
              saidAbove={before !== undefined && before.id === record.question?.stimulus?.id}
              checking={state.busy === "checking" && state.here === slot}
            />
          </div>
        );
      })}
      {/* On a small screen the foot has no room for it. */}
      <button type="button" className="button min-h-11 sm:hidden" onClick={() => store.turning.finish()}>
        {t("desk.desk-footer.look-over-and-hand-in")}
      </button>
    </div>
  );
}
