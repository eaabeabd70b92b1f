import type { NoteAnchor } from "@/core/reveal/note-anchor";

type WordsAnchor = Extract<NoteAnchor, { readonly kind: "words" }>;

/**
 * The characters of an answer on the screen, as offsets count in it: without drawn formulas, and without the numbers that stand
 * at marked passages.
 */
function* textNodes(root: Node): Generator<Text> {
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT | NodeFilter.SHOW_COMMENT);
  let inFormula = false;
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    if (node instanceof Comment) {
      if (node.data.startsWith("formula ")) inFormula = true;
      else if (node.data === "/formula") inFormula = false;
      continue;
    }
    const isNumber = node.parentElement?.matches("mark[data-passage] > sup") ?? false;
    if (!inFormula && !isNumber) yield node as Text;
  }
}

/** Where a point of a selection lies in the text of an answer. */
function offsetOf(root: Node, container: Node, at: number): number {
  const point = document.createRange();
  point.setStart(container, at);
  point.collapse(true);
  let offset = 0;
  for (const node of textNodes(root)) {
    if (node === container) return offset + at;
    const whole = document.createRange();
    whole.selectNode(node);
    // The point lies before this run of text.
    if (point.compareBoundaryPoints(Range.START_TO_START, whole) <= 0) return offset;
    offset += node.data.length;
  }
  return offset;
}

/** What is selected in an answer, as a note is pinned to it; null: nothing, or something else. */
export function selectedWords(root: HTMLElement): WordsAnchor | null {
  const selection = getSelection();
  if (!selection || selection.isCollapsed || selection.rangeCount === 0) return null;
  const range = selection.getRangeAt(0);
  if (!root.contains(range.commonAncestorContainer)) return null;
  const text = [...textNodes(root)].map(({ data }) => data).join("");
  const from = offsetOf(root, range.startContainer, range.startOffset);
  const to = offsetOf(root, range.endContainer, range.endOffset);
  const words = text.slice(from, to);
  // Spaces at the ends are no part of what is meant.
  const lead = words.length - words.trimStart().length;
  const trimmed = words.trim();
  return trimmed === ""
    ? null
    : { kind: "words", from: from + lead, to: from + lead + trimmed.length, words: trimmed };
}
