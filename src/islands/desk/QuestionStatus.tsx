import { timeOfDay } from "@/core/time/words";
import type { Elsewhere, SlotState } from "./desk-state";
import type { DeskStore } from "./desk-store";

interface QuestionStatusProps {
  readonly store: DeskStore;
  readonly slot: number;
  readonly record: SlotState;
  /** Why the server did not take what stands here; null where it did. */
  readonly refused: string | null;
}

/** In characters: so much of another answer is quoted. */
const QUOTED = 60;

function elsewhereWords({ at, state, words }: Elsewhere, zone: string): string {
  const time = timeOfDay(at, zone);
  const other = words === "" ? "empty" : `“${words.length > QUOTED ? `${words.slice(0, QUOTED)} …` : words}”`;
  if (state === "shown" && words === "") return `Written on your other device at ${time}.`;
  if (state === "shown") return `Changed on your other device at ${time}: was ${other}.`;
  if (state === "waits")
    return `Your other device saved ${other} here at ${time}. It shows when you leave this box.`;
  return `Your other device wrote ${other} here at ${time}. What you see here is newer, and is what counts.`;
}

/**
 * The line below an answer, always in its place: whether it is saved and can still be changed, what another device did,
 * and what a key changed, with a way back.
 */
export function QuestionStatus({ store, slot, record, refused }: QuestionStatusProps) {
  const { elsewhere, keyed, standing, saved, fill } = record;
  const { order, zone } = store.view;
  const act = "min-h-6 shrink-0 px-1 underline";
  const isOpen = standing === "open";
  // Where nothing stood before, nothing was replaced.
  const isFirst = elsewhere?.state === "shown" && elsewhere.words === "";
  return (
    <div
      role="status"
      className="mt-2 flex min-h-12 flex-wrap items-center gap-x-3 text-[0.8125rem] sm:min-h-9"
    >
      {refused ? (
        <span className="text-plum">Not saved: {refused}</span>
      ) : elsewhere && isOpen ? (
        <>
          <span className="text-ochre">{elsewhereWords(elsewhere, zone)}</span>
          {elsewhere.state !== "waits" && !isFirst && (
            <button type="button" className={act} onClick={() => store.takeOther(slot)}>
              {elsewhere.words === "" ? "Make it empty" : "Take that one"}
            </button>
          )}
          {elsewhere.state !== "waits" && !isFirst && (
            <button type="button" className={act} onClick={() => store.keepThis(slot)}>
              Keep this one
            </button>
          )}
        </>
      ) : keyed && isOpen ? (
        <>
          <span className="text-ink-2">{keyed.words}</span>
          <button type="button" className={act} onClick={() => store.undoKey(slot)}>
            Undo
          </button>
        </>
      ) : (
        <span className={saved ? "text-ink-2" : "text-ochre"}>
          {!isOpen
            ? ""
            : !saved
              ? "On this device, on its way to the server."
              : fill.state === "empty"
                ? ""
                : `Saved. You can change it until you ${order.rule === "one-way" ? "move on" : "hand in"}.`}
        </span>
      )}
    </div>
  );
}
