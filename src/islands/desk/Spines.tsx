import { useEffect, useRef } from "react";
import type { DeskView } from "@/core/attempt/desk-view";
import { type DeskState, type PlacedSection, placedSections } from "./desk-state";
import { Spine } from "./Spine";

interface SpinesProps {
  readonly state: DeskState;
  readonly sections: DeskView["sections"];
  readonly onGo: (slot: number) => void;
}

/** With more spines than this they narrow and stand in groups, a group for each section. */
const MANY = 30;

const groupsOf = (sections: DeskView["sections"], slots: number): PlacedSection[] =>
  slots <= MANY ? [{ title: null, first: 1, slots }] : placedSections(sections);

/** The row of questions along the bottom, like the spines of books on a shelf. */
export function Spines({ state, sections, onGo }: SpinesProps) {
  const row = useRef<HTMLElement>(null);
  const count = state.slots.length;
  const narrow = count > MANY;
  useEffect(() => {
    const here = row.current?.querySelector(`[data-spine="${state.here}"]`);
    if (narrow) here?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [narrow, state.here]);
  return (
    <nav ref={row} aria-label="Questions" className="relative min-w-0 overflow-x-auto overflow-y-hidden">
      <div className="flex items-end justify-center-safe gap-4 px-1">
        {groupsOf(sections, count).map((group) => (
          <div key={group.first} className="shrink-0">
            {group.title && <p className="small max-w-40 truncate pt-1 leading-tight">{group.title}</p>}
            <ol className={`flex items-end gap-1 ${narrow ? "h-[3.75rem]" : "h-[4.25rem]"}`}>
              {state.slots.slice(group.first - 1, group.first - 1 + group.slots).map((spine, i) => {
                const slot = group.first + i;
                return (
                  <li key={slot} data-spine={slot} className="shrink-0">
                    <Spine
                      slot={slot}
                      spine={spine}
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
