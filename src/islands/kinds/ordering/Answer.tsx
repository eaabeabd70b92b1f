import {
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
import { contentInWords, type PresentedOption } from "@/core/kinds/picks/options";
import type { AnswerProps } from "../answer-props";
import { Content } from "../pictures";

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
    setSaid(`${contentInWords(item)}: now ${to + 1} of ${items.length}`);
  };
  return (
    <>
      <DndContext
        id={`slot-${slot}`}
        sensors={sensors}
        collisionDetection={closestCenter}
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
            This is my order
          </button>
        ) : (
          <button type="button" className="small min-h-6 underline" onClick={() => onChoose(null)}>
            Leave it empty again
          </button>
        )}
        <p className="small">
          {answer === null
            ? "Not answered until you move something, or say so."
            : "This order is your answer."}
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
        aria-label={`Drag: ${words}`}
      >
        <GripVertical aria-hidden="true" className="size-4" />
      </button>
      <span className="w-5 text-right font-bold text-ink-2">{place + 1}</span>
      <Content className="reading min-w-0 flex-1 text-[1.0625rem]" content={item} />
      <button
        type="button"
        className="button button-quiet px-2!"
        disabled={place === 0}
        onClick={() => onMove(place, place - 1)}
        aria-label={`Move up: ${words}`}
      >
        <ArrowUp aria-hidden="true" className="size-4" />
      </button>
      <button
        type="button"
        className="button button-quiet px-2!"
        disabled={place === count - 1}
        onClick={() => onMove(place, place + 1)}
        aria-label={`Move down: ${words}`}
      >
        <ArrowDown aria-hidden="true" className="size-4" />
      </button>
    </li>
  );
}
