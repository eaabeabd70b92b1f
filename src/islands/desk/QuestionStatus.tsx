import { t } from "@/words/t";
import { timeOfDay } from "@/words/times";
import type { Elsewhere, SlotOnScreen } from "./desk-state";
import type { DeskStore } from "./desk-store";

interface QuestionStatusProps {
  readonly store: DeskStore;
  readonly slot: number;
  readonly record: SlotOnScreen;
  /** Why the server did not take what stands here; null where it did. */
  readonly refused: string | null;
}

/** In characters: so much of another answer is quoted. */
const QUOTED = 60;

function elsewhereWords({ at, state, words }: Elsewhere, zone: string): string {
  const time = timeOfDay(at, zone);
  const other =
    words === ""
      ? t("desk.entry-words.empty")
      : `“${words.length > QUOTED ? `${words.slice(0, QUOTED)} …` : words}”`;
  if (state === "shown" && words === "")
    return t("desk.question-status.written-on-your-other-device-at", { time });
  if (state === "shown") return t("desk.question-status.changed-on-your-other-device-at", { time, other });
  if (state === "waits") return t("desk.question-status.your-other-device-saved-here-at", { other, time });
  return t("desk.question-status.your-other-device-wrote-here-at", { other, time });
}

/**
 * The line below an answer, always in its place: whether it is saved and can still be changed, what another device did,
 * and what a key changed, with a way back.
 */
export function QuestionStatus({ store, slot, record, refused }: QuestionStatusProps) {
  const { elsewhere, keyed, access, saved, fill } = record;
  const { order, zone } = store.view;
  const act = "min-h-6 shrink-0 px-1 underline";
  const isOpen = access === "open";
  // Where nothing stood before, nothing was replaced.
  const isFirst = elsewhere?.state === "shown" && elsewhere.words === "";
  return (
    <div
      role="status"
      className="mt-2 flex min-h-12 flex-wrap items-center gap-x-3 text-[0.8125rem] sm:min-h-9"
    >
      {refused ? (
        <span className="text-plum">{t("desk.question-status.not-saved", { refused })}</span>
      ) : elsewhere && isOpen ? (
        <>
          <span className="text-ochre">{elsewhereWords(elsewhere, zone)}</span>
          {elsewhere.state !== "waits" && !isFirst && (
            <button type="button" className={act} onClick={() => store.answers.takeOther(slot)}>
              {elsewhere.words === ""
                ? t("desk.question-status.make-it-empty")
                : t("desk.question-status.take-that-one")}
            </button>
          )}
          {elsewhere.state !== "waits" && !isFirst && (
            <button type="button" className={act} onClick={() => store.answers.keepThis(slot)}>
              {t("desk.question-status.keep-this-one")}
            </button>
          )}
        </>
      ) : keyed && isOpen ? (
        <>
          <span className="text-ink-2">{keyed.words}</span>
          <button type="button" className={act} onClick={() => store.answers.undoKey(slot)}>
            {t("desk.question-status.undo")}
          </button>
        </>
      ) : (
        <span className={saved ? "text-ink-2" : "text-ochre"}>
          {!isOpen
            ? ""
            : !saved
              ? t("desk.question-status.on-this-device-on-its-way")
              : fill.state === "empty"
                ? ""
                : t("desk.question-status.saved-you-can-change-it-until", {
                    part:
                      order.rule === "one-way"
                        ? t("desk.question-status.move-on")
                        : t("desk.question-status.hand-in"),
                  })}
        </span>
      )}
    </div>
  );
}
