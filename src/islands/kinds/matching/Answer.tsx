import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { X } from "lucide-react";
import { useContext, useRef, useState, useSyncExternalStore } from "react";
import type { MatchingAnswer, PresentedMatching } from "@/core/kinds/matching/answer";
import { contentInWords, type PresentedOption } from "@/core/kinds/picks/content";
import { t } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { Content } from "../pictures";
import { ByMenus } from "../view-contexts";
import { MatchingMenus } from "./MatchingMenus";
import { matched } from "./matched";

type Props = AnswerProps<PresentedMatching, MatchingAnswer>;

const SMALL = "(max-width: 47.99rem)";
const onSmall = (changed: () => void) => {
  const media = matchMedia(SMALL);
  media.addEventListener("change", changed);
  return () => media.removeEventListener("change", changed);
};
const isSmall = () => matchMedia(SMALL).matches;

/** A target for each prompt: beside them where there is room, by menus where there is none or they are wanted. */
export function MatchingView(props: Props) {
  const menus = useContext(ByMenus);
  const small = useSyncExternalStore(onSmall, isSmall, () => false);
  return menus || small ? <MatchingMenus {...props} /> : <MatchingTable {...props} />;
}

/**
 * Prompts on the left, each with its place; targets on the right. A place is filled by pressing it and then a target, by
 * dragging a target onto it, or by keys alone: Enter on a place goes to the targets, Enter on a target comes back.
 */
function MatchingTable(props: Props) {
  const { slot, question, answer, closedParts, closed, onChoose } = props;
  const pairs = answer?.pairs ?? {};
  const { prompts, targets } = question;
  const [chosen, setChosen] = useState<string | null>(null);
  const [said, setSaid] = useState("");
  const box = useRef<HTMLDivElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const wordsOf = (list: readonly PresentedOption[], id: string | undefined) => {
    const found = list.find((each) => each.id === id);
    return found ? contentInWords(found) : "";
  };
  const placeOf = (id: string) => box.current?.querySelector<HTMLElement>(`[data-place="${CSS.escape(id)}"]`);
  const isShut = (prompt: string) =>
    closed || (closedParts[prompts.findIndex(({ id }) => id === prompt)] ?? false);
  const open = prompts.filter(({ id }) => !isShut(id));

  const match = (prompt: string, target: string | null) => {
    if (isShut(prompt)) return;
    const before = question.once
      ? prompts.find(({ id }) => pairs[id] === target && id !== prompt)
      : undefined;
    if (before && isShut(before.id)) {
      setSaid(
        t("kinds.matching.answer.belongs-to-a-closed-part-and", { wordsOf: wordsOf(targets, target ?? "") }),
      );
      return;
    }
    const next = matched(question, pairs, prompt, target);
    onChoose(next);
    const name = wordsOf(prompts, prompt);
    const taken =
      before && target !== null
        ? t("kinds.matching.answer.is-empty-now", { contentInWords: contentInWords(before) })
        : "";
    setSaid(
      target === null
        ? t("kinds.matching.answer.empty-now", { name })
        : t("kinds.matching.answer.matched", { name, target: wordsOf(targets, target), taken }),
    );
    const following = open.find(({ id }) => id !== prompt && next?.pairs[id] === undefined);
    setChosen(null);
    // On to the next one that is empty, so that one can go on without looking for it.
    if (target !== null) placeOf(following?.id ?? prompt)?.focus();
  };
  const drop = ({ active, over }: DragEndEvent) => over && match(String(over.id), String(active.id));
  const begin = (prompt: string) => {
    if (isShut(prompt)) return;
    setChosen(prompt === chosen ? null : prompt);
    setSaid(t("kinds.matching.answer.choose-what-belongs-to", { wordsOf: wordsOf(prompts, prompt) }));
    const first = box.current?.querySelector<HTMLElement>("[data-target]");
    const own = box.current?.querySelector<HTMLElement>(`[data-target="${CSS.escape(pairs[prompt] ?? "")}"]`);
    if (prompt !== chosen) (own ?? first)?.focus();
  };

  return (
    <DndContext id={`slot-${slot}`} sensors={sensors} onDragEnd={drop} accessibility={QUIET}>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: Escape takes back what a press on a place began */}
      <div
        ref={box}
        className="grid grid-cols-[minmax(0,1fr)_minmax(11rem,15rem)] gap-x-8 border-t border-line"
        onKeyDown={(event) => {
          if (event.key !== "Escape" || chosen === null) return;
          placeOf(chosen)?.focus();
          setChosen(null);
        }}
      >
        <ol aria-label={t("kinds.matching.answer.to-match")}>
          {prompts.map((prompt, i) => (
            <Prompt
              key={prompt.id}
              place={i + 1}
              slot={slot}
              prompt={prompt}
              target={targets.find(({ id }) => id === pairs[prompt.id]) ?? null}
              isChosen={chosen === prompt.id}
              isShut={isShut(prompt.id)}
              onPress={() => begin(prompt.id)}
              onEmpty={() => match(prompt.id, null)}
            />
          ))}
        </ol>
        <div className="bg-margin px-3 py-2.5">
          <p className="small pb-1.5" id={`slot-${slot}-targets`}>
            {question.once
              ? t("kinds.matching.answer.each-is-used-once")
              : t("kinds.matching.answer.each-may-be-used-more-than")}
          </p>
          <ul aria-labelledby={`slot-${slot}-targets`}>
            {targets.map((target) => (
              <Target
                key={target.id}
                target={target}
                usedWith={prompts.flatMap(({ id }, i) => (pairs[id] === target.id ? [i + 1] : []))}
                disabled={closed}
                onPress={() => {
                  const goal = chosen ?? open.find(({ id }) => pairs[id] === undefined)?.id;
                  if (goal !== undefined) match(goal, target.id);
                  else setSaid(t("kinds.matching.answer.press-the-place-first-that-it"));
                }}
              />
            ))}
          </ul>
        </div>
      </div>
      <p className="small mt-2" aria-live="polite">
        {t("kinds.matching.answer.of-matched-2", {
          keysCount: Object.keys(pairs).length,
          promptsCount: prompts.length,
        })}
        <span className={said === "" ? "" : "ml-2"}>{said}</span>
      </p>
    </DndContext>
  );
}

/** What was dragged where is said by ourselves, with the names of both. */
const QUIET = {
  announcements: {
    onDragStart: () => undefined,
    onDragOver: () => undefined,
    onDragEnd: () => undefined,
    onDragCancel: () => undefined,
  },
  screenReaderInstructions: { draggable: "" },
};

interface PromptProps {
  readonly slot: number;
  /** From 1. */
  readonly place: number;
  readonly prompt: PresentedOption;
  readonly target: PresentedOption | null;
  readonly isChosen: boolean;
  readonly isShut: boolean;
  readonly onPress: () => void;
  readonly onEmpty: () => void;
}

function Prompt({ slot, place, prompt, target, isChosen, isShut, onPress, onEmpty }: PromptProps) {
  const { setNodeRef, isOver } = useDroppable({ id: prompt.id, disabled: isShut });
  const name = `slot-${slot}-${prompt.id}`;
  return (
    <li
      ref={setNodeRef}
      className={`grid grid-cols-[1rem_minmax(0,1fr)_minmax(9rem,13rem)] items-center gap-x-3 border-b border-line py-2 ${isOver ? "bg-indigo-2" : ""}`}
    >
      <span className="small text-right" aria-hidden="true">
        {place}
      </span>
      <Content id={name} className="reading text-[1.0625rem]" content={prompt} />
      <span className="flex min-w-0 items-center">
        <button
          type="button"
          id={`${name}-place`}
          data-place={prompt.id}
          disabled={isShut}
          aria-labelledby={`${name} ${name}-place`}
          aria-pressed={isChosen}
          className={`min-h-10 min-w-0 flex-1 border-b-2 px-2 py-1 text-left ${isChosen ? "border-indigo bg-indigo-2" : target ? "border-ink" : "border-dashed border-control text-ink-2"}`}
          onClick={onPress}
        >
          {target ? (
            <Content content={target} />
          ) : isChosen ? (
            t("kinds.matching.answer.choose-on-the-right")
          ) : (
            t("kinds.matching.answer.not-matched")
          )}
        </button>
        {target && !isShut && (
          <button
            type="button"
            className="flex size-8 shrink-0 items-center justify-center text-ink-2 hover:text-ink"
            aria-label={t("kinds.matching.answer.take-away", { contentInWords: contentInWords(target) })}
            onClick={onEmpty}
          >
            <X aria-hidden="true" className="size-4" />
          </button>
        )}
      </span>
    </li>
  );
}

interface TargetProps {
  readonly target: PresentedOption;
  /** The places of the prompts that it stands at, from 1. */
  readonly usedWith: readonly number[];
  readonly disabled: boolean;
  readonly onPress: () => void;
}

function Target({ target, usedWith, disabled, onPress }: TargetProps) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: target.id, disabled });
  const isUsed = usedWith.length > 0;
  return (
    <li className="border-b border-line last:border-0">
      <button
        ref={setNodeRef}
        type="button"
        data-target={target.id}
        disabled={disabled}
        {...listeners}
        style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
        className={`flex min-h-10 w-full cursor-grab touch-none items-center justify-between gap-2 px-1 py-1.5 text-left hover:bg-indigo-2 ${isDragging ? "relative z-20 bg-indigo-2 shadow-md" : ""} ${isUsed ? "text-ink-2" : "font-bold"}`}
        onClick={onPress}
      >
        <Content content={target} />
        {isUsed && (
          <span className="small shrink-0">
            {t("kinds.matching.answer.used-at", { places: usedWith.join(t("joint.commas")) })}
          </span>
        )}
      </button>
    </li>
  );
}
