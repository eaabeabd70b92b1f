import {
  type Announcements,
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { ArrowDown, ArrowUp, GripVertical } from "lucide-react";
import { useState } from "react";
import type { OrderingAnswer, PresentedOrdering } from "@/core/kinds/ordering/answer";
import { contentInWords, type PresentedOption } from "@/core/kinds/picks/content";
import { said } from "@/core/said";
import { say, t } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { Content } from "../pictures";

const HOW_TO_DRAG = said("kinds.ordering.answer.space-picks-it-up-the-arrows");
/** Items to put in order: dragged, or moved up and down by buttons, which are as quick by keyboard. */
export function OrderingView(props: AnswerProps<PresentedOrdering, OrderingAnswer>) {
  const { slot, question, answer, onChoose } = props;
  const [said, setSaid] = useState("");
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const order = answer?.order ?? question.items.map((item) => item.id);
  const items = order.flatMap((id) => question.items.find((item) => item.id === id) ?? []);
  const move = (from: number, to: number) => {
    const item = items[from];
    if (!item || to < 0 || to >= items.length || from === to) return;
    onChoose({ order: arrayMove([...order], from, to) });
    setSaid(
      t("kinds.ordering.answer.now-of", {
        item: contentInWords(item),
        place: to + 1,
        count: items.length,
      }),
    );
  };
  const nameOf = (id: string | number) => {
    const item = items.find((each) => each.id === String(id));
    return item ? contentInWords(item) : "";
  };
  const placeOf = (id: string | number) => order.indexOf(String(id)) + 1;
  const announcements: Announcements = {
    onDragStart: ({ active }) =>
      t("kinds.ordering.answer.picked-up-from-place", {
        nameOf: nameOf(active.id),
        placeOf: placeOf(active.id),
      }),
    onDragOver: ({ active, over }) =>
      over
        ? t("kinds.ordering.answer.over-place", { nameOf: nameOf(active.id), placeOf: placeOf(over.id) })
        : undefined,
    // Where it came to is said by the line below, for every way of moving.
    onDragEnd: () => undefined,
    onDragCancel: ({ active }) =>
      t("kinds.ordering.answer.stays-where-it-was", { nameOf: nameOf(active.id) }),
  };
  return (
    <>
      <DndContext
        id={`slot-${slot}`}
        sensors={sensors}
        collisionDetection={closestCenter}
        accessibility={{ announcements, screenReaderInstructions: { draggable: say(HOW_TO_DRAG) } }}
        onDragEnd={({ active, over }) =>
          over && move(order.indexOf(String(active.id)), order.indexOf(String(over.id)))
        }
      >
        <SortableContext items={[...order]} strategy={verticalListSortingStrategy}>
          <ol className="border-t border-line" aria-labelledby={`question-${slot}`}>
            {items.map((item, i) => (
              <Item key={item.id} item={item} place={i} count={items.length} onMove={move} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {answer === null ? (
          <button type="button" className="button" onClick={() => onChoose({ order: [...order] })}>
            {t("kinds.ordering.answer.this-is-my-order")}
          </button>
        ) : (
          <button type="button" className="small min-h-6 underline" onClick={() => onChoose(null)}>
            {t("kinds.common.leave-it-empty-again")}
          </button>
        )}
        <p className="small">
          {answer === null
            ? t("kinds.ordering.answer.not-answered-until-you-move-something")
            : t("kinds.ordering.answer.this-order-is-your-answer")}
        </p>
      </div>
      <p className="sr-only" aria-live="polite">
        {said}
      </p>
    </>
  );
}

interface ItemProps {
  readonly item: PresentedOption;
  readonly place: number;
  readonly count: number;
  readonly onMove: (from: number, to: number) => void;
}

function Item({ item, place, count, onMove }: ItemProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, isDragging } = useSortable({
    id: item.id,
  });
  const words = contentInWords(item);
  return (
    <li
      ref={setNodeRef}
      style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
      className={`flex items-center gap-3 border-b border-line bg-paper py-2 ${isDragging ? "relative z-10 bg-indigo-2" : ""}`}
    >
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        className="flex size-9 shrink-0 cursor-grab touch-none items-center justify-center text-ink-3"
        aria-label={t("kinds.ordering.answer.drag", { words })}
      >
        <GripVertical aria-hidden="true" className="size-4" />
      </button>
      <span className="w-5 text-right font-bold text-ink-2">{place + 1}</span>
      <Content className="reading min-w-0 flex-1 text-[1.0625rem]" content={item} />
      <button
        type="button"
        className="button button-quiet px-2! aria-disabled:text-ink-3/50"
        // Not disabled: the focus stays on it when an item comes to the end.
        aria-disabled={place === 0}
        onClick={() => onMove(place, place - 1)}
        aria-label={t("kinds.ordering.answer.move-up", { words })}
      >
        <ArrowUp aria-hidden="true" className="size-4" />
      </button>
      <button
        type="button"
        className="button button-quiet px-2! aria-disabled:text-ink-3/50"
        // Not disabled: the focus stays on it when an item comes to the end.
        aria-disabled={place === count - 1}
        onClick={() => onMove(place, place + 1)}
        aria-label={t("kinds.ordering.answer.move-down", { words })}
      >
        <ArrowDown aria-hidden="true" className="size-4" />
      </button>
    </li>
  );
}
