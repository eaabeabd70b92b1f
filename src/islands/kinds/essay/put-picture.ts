import type { Editor } from "@tiptap/core";
import { Selection } from "@tiptap/pm/state";
import { insertPoint } from "@tiptap/pm/transform";
import type { EditorView } from "@tiptap/pm/view";

/**
 * Puts a picture behind the cursor, and the cursor behind the picture. It takes the place of nothing, whatever is selected
 * by the time it arrives, and what is typed next does not take the place of the picture.
 */
export function putPicture(editor: Editor, attributes: { readonly src: string; readonly alt: string }): void {
  editor.commands.command(({ tr, state }) => {
    const { image, paragraph } = state.schema.nodes;
    if (!image || !paragraph) return false;
    const at = insertPoint(tr.doc, tr.selection.to, image) ?? tr.selection.to;
    tr.insert(at, image.create(attributes));
    const behind = tr.mapping.map(at, 1);
    const place = tr.doc.resolve(behind);
    // There has to be a line to go on writing in.
    if (!place.parent.inlineContent && !place.nodeAfter?.isTextblock) tr.insert(behind, paragraph.create());
    tr.setSelection(Selection.near(tr.doc.resolve(behind), 1));
    return true;
  });
}

/** Moves the cursor to where something was dropped on the essay, so that it is put in there. */
export function cursorTo(view: EditorView, at: { readonly left: number; readonly top: number }): void {
  const place = view.posAtCoords(at);
  if (!place) return;
  const { tr } = view.state;
  view.dispatch(tr.setSelection(Selection.near(tr.doc.resolve(place.pos))));
}
