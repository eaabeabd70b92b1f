import { type DeskState, pageOf, placedSections } from "./desk-state";
import type { DeskStore } from "./desk-store";
import type { PendingFile } from "./file-queue";
import { QuestionSheet } from "./QuestionSheet";

interface PageSheetProps {
  readonly store: DeskStore;
  readonly state: DeskState;
}

const NONE: readonly PendingFile[] = [];
/** The same empty list each time, so that a sheet without files is not drawn anew. */
const filesOf = (files: readonly PendingFile[], slot: number) => {
  const own = files.filter((file) => file.slot === slot);
  return own.length > 0 ? own : NONE;
};

/** The page on the desk: one question, a section, or all of them. */
export function PageSheet({ store, state }: PageSheetProps) {
  const { order, sections } = store.view;
  const slots = order.pages[pageOf(order, state.here)] ?? [state.here];
  const titles = new Map(
    placedSections(sections).flatMap(({ first, title }) => (title ? [[first, title] as const] : [])),
  );
  return (
    <div data-page className="grid grid-cols-[minmax(0,1fr)] gap-y-14">
      {slots.map((slot) => {
        const record = state.slots[slot - 1];
        if (!record) return null;
        return (
          <div key={slot}>
            {titles.has(slot) && <p className="label mb-4 sm:pl-[5.25rem]">{titles.get(slot)}</p>}
            <QuestionSheet
              store={store}
              slot={slot}
              record={record}
              count={state.slots.length}
              pictures={state.pictures}
              files={filesOf(state.files, slot)}
              replaced={state.replaced?.slot === slot ? state.replaced : null}
              checking={state.busy === "checking" && state.here === slot}
            />
          </div>
        );
      })}
    </div>
  );
}
