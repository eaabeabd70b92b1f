import { X } from "lucide-react";
import { useState } from "react";
import { t } from "@/words/t";
import { endTime, spokenLength, timeOfDay, timeTaken } from "@/words/times";
import { type DeskState, placedSections } from "./desk-state";
import type { DeskStore } from "./desk-store";
import type { Countdown } from "./use-countdown";

interface MessageLineProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  readonly countdown: Countdown;
  readonly showsUsed: boolean;
  /** Whether the page is alive. */
  readonly ready: boolean;
  readonly onSignIn: () => void;
}

type Mood = "told" | "good" | "refused";

interface Message {
  readonly id: string;
  readonly mood: Mood;
  readonly words: string;
  /** Said at once by screen readers. */
  readonly isUrgent?: boolean;
  /** Spoken by someone else already. */
  readonly isSpoken?: boolean;
  readonly action?: { readonly name: string; readonly onPress: () => void };
  /** Absent: it stays while its reason does. */
  readonly onAway?: () => void;
}

const MOODS: { readonly [M in Mood]: string } = {
  told: "bg-ochre-2 text-ochre",
  good: "bg-moss-2 text-moss",
  refused: "bg-plum-2 text-plum",
};

/** What there is to say, the most pressing first. */
function messagesOf(
  { store, state, countdown, onSignIn }: MessageLineProps,
  putAway: number | null,
  onPutAway: (notice: number) => void,
): Message[] {
  const { zone, limitMinutes } = store.view;
  const { warning: notice, left } = countdown;
  const now = state.deadline === null || left === null ? null : state.deadline - left;
  const messages: Message[] = [];
  if (state.sending.kind === "signed-out") {
    messages.push({
      id: "signed-out",
      mood: "refused",
      words: t("desk.message-line.you-are-signed-out-your-answers"),
      action: { name: t("desk.message-line.sign-in-again"), onPress: onSignIn },
    });
  }
  if (state.problem !== null) {
    messages.push({
      id: `problem ${state.problem}`,
      mood: "refused",
      words: state.problem,
      isUrgent: true,
      onAway: () => store.turning.forgetProblem(),
    });
  }
  for (const { slot, sentence } of state.refusals) {
    messages.push({
      id: `refused ${slot}`,
      mood: "refused",
      words: t("desk.message-line.not-saved", { sentence }),
      isUrgent: true,
    });
  }
  for (const each of state.messages.toReversed()) {
    messages.push({
      id: each.id,
      mood: "told",
      words: `${each.from}, ${timeOfDay(each.at, zone)}: ${each.text}`,
      onAway: () => store.link.dismissMessage(each.id),
    });
  }
  if (state.moved !== null && state.deadline !== null && now !== null) {
    const end = { endTime: endTime(state.deadline, now, zone) };
    messages.push({
      id: `moved ${state.deadline}`,
      mood: state.moved === "later" ? "good" : "told",
      words:
        state.moved === "later"
          ? t("desk.message-line.your-instructor-gave-more-time-it", end)
          : t("desk.message-line.your-instructor-changed-your-time", end),
      onAway: () => store.link.forgetMoved(),
    });
  }
  if (notice !== null && state.deadline !== null && left !== null && left > 0 && notice !== putAway) {
    const at = timeOfDay(state.deadline - notice, zone);
    messages.push({
      id: `time ${notice}`,
      mood: "told",
      words:
        limitMinutes === null
          ? t("desk.message-line.this-quiz-closes-at-at-that", {
              deadline: timeOfDay(state.deadline, zone),
              at,
              notice: spokenLength(notice),
            })
          : t("desk.message-line.at-you-had-left", { at, notice: spokenLength(notice) }),
      isSpoken: true,
      onAway: () => onPutAway(notice),
    });
  }
  if (state.isOpenElsewhere) {
    messages.push({
      id: "elsewhere",
      mood: "told",
      words: t("desk.message-line.this-attempt-is-open-on-another"),
      onAway: () => store.link.forgetElsewhere(),
    });
  }
  return messages;
}

/**
 * The line under the head in which everything is said: it always has its place, so that nothing below it ever moves by
 * itself. With nothing to say it says where one is. A message stays until it is put away; the most pressing is in front.
 */
export function MessageLine(props: MessageLineProps) {
  const { state, store } = props;
  const [putAway, setPutAway] = useState<number | null>(null);
  const [whole, setWhole] = useState<string | null>(null);
  const messages = messagesOf(props, putAway, setPutAway);
  const [message] = messages;
  const isWhole = message !== undefined && whole === message.id;
  return (
    <div
      className={`-mx-4 border-t border-line sm:-mx-8 ${message ? MOODS[message.mood] : "text-ink-2"} ${isWhole ? "min-h-12" : "h-12 overflow-hidden sm:h-10"}`}
    >
      <div className="flex h-full items-center gap-x-3 px-4 sm:px-8">
        {message ? (
          <>
            <p
              // Another message is another element: it takes the place, and nothing moves.
              key={message.id}
              className={`min-w-0 flex-1 text-[0.8125rem] leading-snug ${isWhole ? "py-2" : "line-clamp-2"}`}
            >
              <Spoken message={message} />
            </p>
            {message.words.length > LONG && !isWhole && (
              <button
                type="button"
                className={`min-h-8 shrink-0 px-1 text-[0.8125rem] underline ${message.words.length > LONGER ? "" : "sm:hidden"}`}
                onClick={() => setWhole(message.id)}
              >
                {t("desk.message-line.read-all")}
              </button>
            )}
            {messages.length > 1 && (
              <span className="shrink-0 text-[0.8125rem] whitespace-nowrap">
                {t("desk.message-line.1-of", { messagesCount: messages.length })}
              </span>
            )}
            {message.action && (
              <button
                type="button"
                className="button min-h-8! shrink-0 py-0.5!"
                onClick={message.action.onPress}
              >
                {message.action.name}
              </button>
            )}
            {message.onAway && (
              <button
                type="button"
                className="flex size-8 shrink-0 items-center justify-center"
                aria-label={t("desk.message-line.put-this-message-away")}
                title={t("desk.message-line.put-this-message-away")}
                onClick={message.onAway}
              >
                <X aria-hidden="true" className="size-4" />
              </button>
            )}
          </>
        ) : (
          <Where
            ready={props.ready}
            state={state}
            store={store}
            showsUsed={props.showsUsed}
            left={props.countdown.left}
          />
        )}
      </div>
    </div>
  );
}

/** In characters: what is longer may not fit its line on a small screen. */
const LONG = 90;
/** The same for a wide one. */
const LONGER = 260;

function Spoken({ message }: { readonly message: Message }) {
  if (message.isSpoken) return message.words;
  return (
    <span key={message.id} role={message.isUrgent ? "alert" : "status"}>
      {message.words}
    </span>
  );
}

interface WhereProps extends Pick<MessageLineProps, "state" | "store" | "showsUsed" | "ready"> {
  readonly left: number | null;
}

/** Where one is, while there is nothing to say. */
function Where({ state, store, showsUsed, ready, left }: WhereProps) {
  const { here, look, slots, deadline, startedAt } = state;
  const { sections } = store.view;
  const section = placedSections(sections).findLast(({ first }) => first <= here)?.title;
  const used = deadline === null || left === null ? null : deadline - left - startedAt;
  if (!ready) {
    return (
      <p className="min-w-0 flex-1 truncate text-[0.8125rem]">
        {t("desk.message-line.the-desk-is-being-made-ready")}
      </p>
    );
  }
  return (
    <p className="min-w-0 flex-1 truncate text-[0.8125rem]">
      {look === "final"
        ? t("desk.message-line.nothing-is-handed-in-yet")
        : t("desk.message-line.question-of", { here, slotsCount: slots.length })}
      {look === "question" && section ? ` · ${section}` : ""}
      {showsUsed && used !== null && t("desk.message-line.used", { max: timeTaken(Math.max(0, used)) })}
    </p>
  );
}
