import {
  closestCenter,
  DndContext,
  type DragEndEvent,
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
import { GripVertical, X } from "lucide-react";
import { type KeyboardEvent, type ReactNode, useRef } from "react";
import { t } from "@/words/t";
import { removeWords } from "./fields";

interface ItemRowsProps<I extends { readonly id: string }> {
  readonly items: readonly I[];
  /** What a row is called: "option B". */
  readonly nameOf: (item: I, place: number) => string;
  readonly children: (item: I, place: number) => ReactNode;
  /** Fewer rows there may not be. */
  readonly least: number;
  readonly onMove: (items: I[]) => void;
  readonly onRemove: (item: I) => void;
}

/** Rows that are put in another order by dragging, or by Alt with the arrows from anywhere within one. */
export function ItemRows<I extends { readonly id: string }>(props: ItemRowsProps<I>) {
  const { items, nameOf, children, least, onMove, onRemove } = props;
  const list = useRef<HTMLUListElement>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const move = (from: number, to: number) => {
    if (from < 0 || to < 0 || to >= items.length || from === to) return;
    onMove(arrayMove([...items], from, to));
  };
  const ended = ({ active, over }: DragEndEvent) =>
    move(
      items.findIndex(({ id }) => id === active.id),
      items.findIndex(({ id }) => id === over?.id),
    );
  const byKeys = (event: KeyboardEvent, place: number) => {
    if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
    event.preventDefault();
    event.stopPropagation();
    const focused = document.activeElement;
    move(place, place + (event.key === "ArrowUp" ? -1 : 1));
    // The row takes the focus along.
    requestAnimationFrame(() => focused instanceof HTMLElement && focused.isConnected && focused.focus());
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={ended}>
      <SortableContext items={items.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ul ref={list} className="border-t border-line">
          {items.map((item, place) => (
            <Row
              key={item.id}
              id={item.id}
              name={nameOf(item, place)}
              onKeyDown={(event) => byKeys(event, place)}
              {...(items.length > least ? { onRemove: () => onRemove(item) } : {})}
            >
              {children(item, place)}
            </Row>
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
}

interface RowProps {
  readonly id: string;
  readonly name: string;
  readonly children: ReactNode;
  readonly onKeyDown: (event: KeyboardEvent) => void;
  readonly onRemove?: () => void;
}

function Row({ id, name, children, onKeyDown, onRemove }: RowProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: transform ? `translate3d(0, ${Math.round(transform.y)}px, 0)` : undefined,
        transition,
      }}
      className={`group/row flex items-start gap-1 border-b border-line py-1.5 ${isDragging ? "relative z-10 bg-sheet shadow-md" : ""}`}
      onKeyDown={onKeyDown}
    >
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={t("compose.item-rows.move", { name })}
        title={t("compose.item-rows.drag-or-keys")}
        className="grid h-9 w-6 shrink-0 cursor-grab touch-none place-items-center text-ink-2"
      >
        <GripVertical aria-hidden="true" className="size-4" />
      </button>
      <div className="min-w-0 flex-1">{children}</div>
      {onRemove && (
        <button
          type="button"
          aria-label={removeWords(name)}
          title={removeWords(name)}
          className="grid size-9 shrink-0 place-items-center text-ink-2 hover:text-plum"
          onClick={onRemove}
        >
          <X aria-hidden="true" className="size-4" />
        </button>
      )}
    </li>
  );
}
