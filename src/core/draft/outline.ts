import { sameValue } from "../same-value";
import type { OutlinePiece, OutlineSection } from "./pieces";

/** A place among the questions of a draft: before the `at`th of a section, counted from 0. */
export interface OutlinePlace {
  readonly section: string;
  readonly at: number;
}

const withSections = (outline: OutlinePiece, sections: readonly OutlineSection[]): OutlinePiece => ({
  ...outline,
  sections,
});

/**
 * Where a question stands; null: nowhere.
 * @example placeOf({ piece: "outline", sections: [{ id: "s", questions: [7, 8] }] }, 8) → { section: "s", at: 1 }
 */
export function placeOf(outline: OutlinePiece, slot: number): OutlinePlace | null {
  for (const { id, questions } of outline.sections) {
    const at = questions.indexOf(slot);
    if (at >= 0) return { section: id, at };
  }
  return null;
}

/**
 * An outline without a question.
 * @example withoutQuestion({ piece: "outline", sections: [{ id: "s", questions: [7, 8] }] }, 7) → { piece: "outline", sections: [{ id: "s", questions: [8] }] }
 */
export const withoutQuestion = (outline: OutlinePiece, slot: number): OutlinePiece =>
  withSections(
    outline,
    outline.sections.map((section) =>
      section.questions.includes(slot)
        ? { ...section, questions: section.questions.filter((each) => each !== slot) }
        : section,
    ),
  );

/**
 * An outline with a question put at a place, from wherever it was. A section that is not there any more is the last one.
 * @example withQuestionAt({ piece: "outline", sections: [{ id: "s", questions: [7, 8] }] }, 8, { section: "s", at: 0 }) → { piece: "outline", sections: [{ id: "s", questions: [8, 7] }] }
 */
export function withQuestionAt(outline: OutlinePiece, slot: number, place: OutlinePlace): OutlinePiece {
  const without = withoutQuestion(outline, slot);
  const last = without.sections.at(-1);
  const section = without.sections.find(({ id }) => id === place.section) ?? last;
  if (!section) return withSections(without, [{ id: place.section, questions: [slot] }]);
  const at = section.id === place.section ? Math.max(0, place.at) : section.questions.length;
  const questions = [...section.questions.slice(0, at), slot, ...section.questions.slice(at)];
  return withSections(
    without,
    without.sections.map((each) => (each === section ? { ...each, questions } : each)),
  );
}

/**
 * An outline with a question moved by one place, over the border of its section where it stands at it.
 * @param by -1: up; 1: down
 * @example movedBy({ piece: "outline", sections: [{ id: "s", questions: [7] }, { id: "t", questions: [8] }] }, 7, 1) → { piece: "outline", sections: [{ id: "s", questions: [] }, { id: "t", questions: [7, 8] }] }
 */
export function movedBy(outline: OutlinePiece, slot: number, by: -1 | 1): OutlinePiece {
  const place = placeOf(outline, slot);
  if (!place) return outline;
  const here = outline.sections.findIndex(({ id }) => id === place.section);
  const count = outline.sections[here]?.questions.length ?? 0;
  const next = place.at + by;
  if (next >= 0 && next < count) return withQuestionAt(outline, slot, { section: place.section, at: next });
  const beside = outline.sections[here + by];
  return beside
    ? withQuestionAt(outline, slot, { section: beside.id, at: by === 1 ? 0 : beside.questions.length })
    : outline;
}

/**
 * An outline with a section moved by one place.
 * @example sectionMovedBy({ piece: "outline", sections: [{ id: "s", questions: [] }, { id: "t", questions: [] }] }, "t", -1).sections.map(({ id }) => id) → ["t", "s"]
 */
export function sectionMovedBy(outline: OutlinePiece, id: string, by: -1 | 1): OutlinePiece {
  const from = outline.sections.findIndex((each) => each.id === id);
  const to = from + by;
  if (from < 0 || to < 0 || to >= outline.sections.length) return outline;
  const sections = [...outline.sections];
  const [section] = sections.splice(from, 1);
  if (section) sections.splice(to, 0, section);
  return withSections(outline, sections);
}

const slotsOf = (outline: OutlinePiece): number[] => outline.sections.flatMap(({ questions }) => questions);

/**
 * Two outlines that were made of one, put together: what either put in is in, what either took out is out, and where both
 * changed the order, the later one's holds. No question that one of them has newly is lost.
 * @param base the outline that both were made of
 */
export function outlinesTogether(base: OutlinePiece, mine: OutlinePiece, theirs: OutlinePiece): OutlinePiece {
  if (sameValue(base, theirs)) return mine;
  if (sameValue(base, mine)) return theirs;
  const [inBase, inMine, inTheirs] = [base, mine, theirs].map((each) => new Set(slotsOf(each)));
  const baseOf = new Map(base.sections.map((each) => [each.id, each]));
  const mineOf = new Map(mine.sections.map((each) => [each.id, each]));
  const ofMine = (section: OutlineSection): OutlineSection => {
    const own = mineOf.get(section.id);
    const before = baseOf.get(section.id);
    if (!own) return section;
    const terms = ({ questions: _, ...rest }: OutlineSection) => rest;
    const isMine = !before || !sameValue(terms(own), terms(before));
    return isMine ? { ...terms(own), questions: section.questions } : section;
  };
  const taken = theirs.sections
    .map(ofMine)
    .map((section) => ({
      ...section,
      questions: section.questions.filter((slot) => inMine?.has(slot) || !inBase?.has(slot)),
    }))
    // A section that I took out stays out, unless something new stands in it.
    .filter(({ id, questions }) => mineOf.has(id) || !baseOf.has(id) || questions.length > 0);
  let together = withSections(theirs, taken);
  mine.sections.forEach((section, i) => {
    const isThere = together.sections.some(({ id }) => id === section.id);
    // One that they took out comes back only with what is new in it.
    const isNew = !baseOf.has(section.id);
    const added = section.questions.filter((slot) => !inBase?.has(slot) && !inTheirs?.has(slot));
    if (!isThere && (isNew || added.length > 0)) {
      const before = mine.sections[i - 1]?.id;
      const at = together.sections.findIndex(({ id }) => id === before) + 1;
      const sections = [...together.sections];
      sections.splice(at, 0, { ...section, questions: [] });
      together = withSections(together, sections);
    }
    for (const slot of added) {
      const previous = section.questions[section.questions.indexOf(slot) - 1];
      const place = previous === undefined ? null : placeOf(together, previous);
      const at = place?.section === section.id ? place.at + 1 : 0;
      together = withQuestionAt(together, slot, { section: section.id, at });
    }
  });
  // What both moved or kept, but no section holds any more, is at the end of its own.
  for (const slot of slotsOf(mine)) {
    const isKept = inTheirs?.has(slot);
    if (isKept && !placeOf(together, slot)) {
      const own = placeOf(mine, slot);
      if (own) together = withQuestionAt(together, slot, own);
    }
  }
  return together;
}
