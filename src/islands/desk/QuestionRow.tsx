import { useEffect, useRef } from "react";
import type { DeskView } from "@/core/desk/desk-view";
import { t } from "@/words/t";
import { type DeskState, type PlacedSection, placedSections } from "./desk-state";
import { RowEntry } from "./RowEntry";

interface QuestionRowProps {
  readonly state: DeskState;
  readonly sections: DeskView["sections"];
  readonly onGo: (slot: number) => void;
}

/** With more questions than this they narrow and stand in groups, a group for each section. */
const MANY = 30;

const groupsOf = (sections: DeskView["sections"], slots: number): PlacedSection[] =>
  slots <= MANY ? [{ title: null, first: 1, slots }] : placedSections(sections);

/** The row of questions: one ruled line along the foot of the desk, with the numbers on it. It never wraps. */
export function QuestionRow({ state, sections, onGo }: QuestionRowProps) {
  const row = useRef<HTMLElement>(null);
  const count = state.slots.length;
  const narrow = count > MANY;
  useEffect(() => {
    const nav = row.current;
    const here = nav?.querySelector<HTMLElement>(`[data-entry="${state.here}"]`);
    // Only the row itself scrolls: nothing else may move when a question is turned to.
    if (nav && here) nav.scrollLeft = here.offsetLeft + here.offsetWidth / 2 - nav.clientWidth / 2;
  }, [state.here]);
  return (
    <nav
      ref={row}
      aria-label={t("desk.question-row.questions")}
      className="relative min-w-0 overflow-x-auto overflow-y-hidden"
    >
      <div className="flex w-max min-w-full items-end justify-center gap-5 px-1">
        {groupsOf(sections, count).map((group) => (
          <div key={group.first} className="shrink-0">
            {group.title && (
              <p className="small w-0 min-w-full truncate pt-1 text-center leading-tight" title={group.title}>
                {group.title}
              </p>
            )}
            <ol className="flex items-end justify-center">
              {state.slots.slice(group.first - 1, group.first - 1 + group.slots).map((record, i) => {
                const slot = group.first + i;
                return (
                  <li key={slot} data-entry={slot} className="shrink-0">
                    <RowEntry
                      slot={slot}
                      record={record}
                      here={state.look === "question" && state.here === slot}
                      narrow={narrow}
                      onGo={onGo}
                    />
                  </li>
                );
              })}
            </ol>
          </div>
        ))}
      </div>
    </nav>
  );
}
