import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { type KeyboardEvent, memo } from "react";
import { placeOf } from "@/core/draft/outline";
import { HEAD, type OutlineSection, outlineOf, questionOf, RULES } from "@/core/draft/pieces";
import type { Question } from "@/core/kinds/marking";
import { plainText } from "@/core/text/plain-text";
import { t } from "@/words/t";
import type { ComposerState, ComposerStore, Here } from "./composer-store";
import type { DraftDeeds } from "./draft-deeds";
import { kindName } from "./kind-names";

interface PaperListProps {
  readonly store: ComposerStore;
  readonly deeds: DraftDeeds;
  readonly state: ComposerState;
}

const isAt = (here: Here, slot: number): boolean => here.kind === "piece" && here.slot === slot;

/** The paper as it lies there: what is before the questions, the sections, the questions in their order. */
export function PaperList({ store, deeds, state }: PaperListProps) {
  const { pieces, here, steps } = state;
  const outline = outlineOf(pieces);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const toPutRight = new Map<number, number>();
  for (const { slot, must } of steps ?? []) if (must) toPutRight.set(slot, (toPutRight.get(slot) ?? 0) + 1);
  const ended = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const slot = Number(active.id);
    if (typeof over.id === "string" && over.id.startsWith("end of ")) {
      const id = over.id.slice("end of ".length);
      const section = outline.sections.find((each) => each.id === id);
      deeds.moveTo(slot, { section: id, at: section?.questions.length ?? 0 });
      return;
    }
    const place = placeOf(outline, Number(over.id));
    if (place) deeds.moveTo(slot, place);
  };
  const isTitled = outline.sections.length > 1 || Boolean(outline.sections[0]?.title);
  let number = 0;
  return (
    <nav aria-label={t("composer.paper-list.the-paper")}>
      <ul className="mb-2">
        <Way
          name={t("composer.paper-list.title-and-brief")}
          isHere={isAt(here, HEAD)}
          wrong={toPutRight.get(HEAD) ?? 0}
          onGo={() => store.go({ kind: "piece", slot: HEAD })}
        />
        <Way
          name={t("composer.paper-list.rules")}
          isHere={isAt(here, RULES)}
          wrong={toPutRight.get(RULES) ?? 0}
          onGo={() => store.go({ kind: "piece", slot: RULES })}
        />
      </ul>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={ended}>
        {outline.sections.map((section, i) => {
          const begins = number;
          const there = section.questions.filter((slot) => questionOf(pieces, slot) !== null);
          number += section.draw === undefined ? there.length : section.draw;
          return (
            <section key={section.id} aria-label={sectionName(section, i)}>
              <h2>
                <button
                  type="button"
                  className={`small flex min-h-9 w-full items-center justify-between gap-2 px-4 text-left hover:bg-sheet ${here.kind === "section" && here.id === section.id ? "border-l-[3px] border-indigo bg-sheet" : "border-l-[3px] border-transparent"}`}
                  aria-current={here.kind === "section" && here.id === section.id ? "true" : undefined}
                  onClick={() => store.go({ kind: "section", id: section.id })}
                >
                  <span className="min-w-0 truncate">
                    {isTitled ? sectionName(section, i) : t("composer.paper-list.questions")}
                    {section.draw !== undefined && (
                      <>
                        {" · "}
                        {t("composer.paper-list.drawn-of", { draw: section.draw, count: there.length })}
                      </>
                    )}
                  </span>
                  <span className="shrink-0 underline">{t("composer.paper-list.change")}</span>
                </button>
              </h2>
              <SortableContext items={there} strategy={verticalListSortingStrategy}>
                <ol>
                  {there.map((slot, nth) => {
                    const question = questionOf(pieces, slot);
                    return (
                      question && (
                        <QuestionLine
                          key={slot}
                          slot={slot}
                          question={question}
                          number={section.draw === undefined ? begins + nth + 1 : null}
                          isHere={isAt(here, slot)}
                          wrong={toPutRight.get(slot) ?? 0}
                          writer={
                            state.others.find((each) => each.slot === slot && !each.isSelf)?.name ?? null
                          }
                          isElsewhere={state.elsewhere.has(slot)}
                          store={store}
                          deeds={deeds}
                        />
                      )
                    );
                  })}
                </ol>
              </SortableContext>
              <EndOfSection id={section.id} isEmpty={there.length === 0} />
            </section>
          );
        })}
      </DndContext>
    </nav>
  );
}

export const sectionName = ({ title }: OutlineSection, place: number): string =>
  title === undefined || title === "" ? t("composer.paper-list.section", { nth: place + 1 }) : title;

interface WayProps {
  readonly name: string;
  readonly isHere: boolean;
  readonly wrong: number;
  readonly onGo: () => void;
}

const LINE =
  "flex min-h-11 w-full items-center gap-3 px-4 text-left text-[0.9375rem] hover:bg-sheet border-l-[3px]";

const Way = ({ name, isHere, wrong, onGo }: WayProps) => (
  <li>
    <button
      type="button"
      aria-current={isHere ? "true" : undefined}
      className={`${LINE} ${isHere ? "border-indigo bg-sheet" : "border-transparent"}`}
      onClick={onGo}
    >
      <span className="flex-1">{name}</span>
      {wrong > 0 && <Wrong count={wrong} />}
    </button>
  </li>
);

const Wrong = ({ count }: { readonly count: number }) => (
  <span className="shrink-0 text-[0.8125rem] text-plum">
    {t("composer.paper-list.to-put-right", { count })}
  </span>
);

/** Below the last question of a section: where one is dropped to be the last. */
function EndOfSection({ id, isEmpty }: { readonly id: string; readonly isEmpty: boolean }) {
  const { setNodeRef, isOver } = useDroppable({ id: `end of ${id}` });
  return (
    <div ref={setNodeRef} className={`${isEmpty ? "min-h-11" : "min-h-2"} ${isOver ? "bg-indigo-2" : ""}`}>
      {isEmpty && <p className="small px-4 py-2">{t("composer.paper-list.nothing-here-yet")}</p>}
    </div>
  );
}

interface QuestionLineProps {
  readonly slot: number;
  readonly question: Question;
  /** Null: it may be drawn, and has no number of its own. */
  readonly number: number | null;
  readonly isHere: boolean;
  readonly wrong: number;
  /** Who else has it open. */
  readonly writer: string | null;
  readonly isElsewhere: boolean;
  readonly store: ComposerStore;
  readonly deeds: DraftDeeds;
}

const QuestionLine = memo(function QuestionLine(props: QuestionLineProps) {
  const { slot, question, number, isHere, wrong, writer, isElsewhere, store, deeds } = props;
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: slot });
  const text = plainText(question.text).trim();
  const byKeys = (event: KeyboardEvent) => {
    if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      event.preventDefault();
      event.stopPropagation();
      deeds.move(slot, event.key === "ArrowUp" ? -1 : 1);
    } else if (event.key === "Delete") {
      event.preventDefault();
      deeds.remove(slot);
    }
  };
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: transform ? `translate3d(0, ${Math.round(transform.y)}px, 0)` : undefined,
        transition,
      }}
      className={isDragging ? "relative z-10 bg-sheet shadow-md" : ""}
    >
      <button
        type="button"
        data-question={slot}
        aria-current={isHere ? "true" : undefined}
        aria-describedby="paper-keys"
        className={`${LINE} touch-manipulation ${isHere ? "border-indigo bg-sheet" : "border-transparent"}`}
        onClick={() => store.go({ kind: "piece", slot })}
        onKeyDown={byKeys}
        onPointerDown={listeners?.onPointerDown as never}
      >
        <span className="w-5 shrink-0 font-read text-xl text-indigo">{number ?? "·"}</span>
        <span className={`min-w-0 flex-1 truncate ${text === "" ? "text-ink-2 italic" : ""}`}>
          {text === "" ? kindName(question.kind) : text}
          {writer !== null && (
            <span className="small block">{t("composer.paper-list.writes-here", { writer })}</span>
          )}
        </span>
        {isElsewhere ? (
          <span className="shrink-0 text-[0.8125rem] font-bold text-plum">
            {t("composer.paper-list.two-states")}
          </span>
        ) : wrong > 0 ? (
          <Wrong count={wrong} />
        ) : (
          <span className="small shrink-0">
            {question.kind === "declaration" ? "" : String(question.marks)}
          </span>
        )}
      </button>
    </li>
  );
});
