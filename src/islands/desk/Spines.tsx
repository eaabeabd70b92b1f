import type { DeskState, SlotState } from "./desk-store";

interface SpinesProps {
  readonly state: DeskState;
  readonly onGo: (slot: number) => void;
}

/** The spine in words, for its tooltip and for screen readers. */
function spineWords(slot: number, spine: SlotState, here: boolean): string {
  return [
    `Question ${slot}`,
    here ? "here" : "",
    spine.fill.state === "part" ? spine.fill.words : spine.fill.state === "full" ? "answered" : "empty",
    spine.folded ? "corner folded" : "",
    spine.saved ? "" : "not on the server yet",
  ]
    .filter(Boolean)
    .join(", ");
}

/** The row of questions along the bottom, like the spines of books on a shelf. */
export function Spines({ state, onGo }: SpinesProps) {
  const narrow = state.slots.length > 30;
  return (
    <nav aria-label="Questions" className="min-w-0 overflow-x-auto overflow-y-hidden">
      <ol className="flex h-[4.25rem] items-end justify-center-safe gap-1 px-1">
        {state.slots.map((spine, i) => {
          const slot = i + 1;
          const here = state.look === "question" && state.here === slot;
          const words = spineWords(slot, spine, here);
          const foot = spine.fill.state === "full" ? "w-full" : spine.fill.state === "part" ? "w-1/2" : "w-0";
          return (
            <li key={slot} className="shrink-0">
              <button
                type="button"
                title={words}
                aria-label={words}
                aria-current={here ? "step" : undefined}
                onClick={() => onGo(slot)}
                className={`relative block overflow-hidden rounded-t-sm border bg-sheet pt-2 text-[0.8125rem] font-bold focus-visible:outline-offset-[-3px] ${narrow ? "w-7" : "w-[2.375rem]"} ${here ? "h-14 border-2 border-ink text-ink" : "h-11 border-line-2 text-ink-2 hover:border-control"}`}
              >
                <span className="absolute inset-x-0 top-2">{slot}</span>
                {spine.folded && (
                  <svg className="absolute top-0 right-0 size-3.5" viewBox="0 0 14 14" aria-hidden="true">
                    <path d="M0 0h14v14z" className="fill-paper" />
                    <path d="M0 0v14h14z" className="fill-ochre" />
                  </svg>
                )}
                <span
                  className={`absolute bottom-0 left-0 h-4 ${foot} ${spine.saved ? "bg-ink" : "border-t-2 border-dashed border-ink bg-sunk"}`}
                />
              </button>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
