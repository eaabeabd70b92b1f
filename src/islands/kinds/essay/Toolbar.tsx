import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import {
  Bold,
  Heading,
  ImagePlus,
  Italic,
  Link as LinkSign,
  List,
  ListOrdered,
  Radical,
  Redo2,
  Table,
  Undo2,
} from "lucide-react";
import { Toolbar as Tools } from "radix-ui";
import { t } from "@/words/t";
import { ToolButtons, type ToolDeed } from "../writing/ToolButtons";
import { PictureTools } from "./PictureTools";

interface ToolbarProps {
  readonly editor: Editor;
  readonly slot: number;
  readonly onFormula: () => void;
  readonly onPicture: () => void;
  readonly onLink: () => void;
}

/** What can be done to the text; inside a table also what belongs to tables. */
export function Toolbar({ editor, slot, onFormula, onPicture, onLink }: ToolbarProps) {
  const now = useEditorState({
    editor,
    selector: ({ editor: each }) => ({
      heading: each.isActive("heading"),
      bold: each.isActive("bold"),
      italic: each.isActive("italic"),
      bullets: each.isActive("bulletList"),
      numbers: each.isActive("orderedList"),
      table: each.isActive("table"),
      link: each.isActive("link"),
      picture: each.isActive("image"),
      canUndo: each.can().undo(),
      canRedo: each.can().redo(),
    }),
  });
  // The editor's own command takes the focus a frame later; what is typed meanwhile would be lost.
  const chain = () => {
    editor.view.focus();
    return editor.chain().focus();
  };
  const deeds: readonly ToolDeed[] = [
    {
      name: t("kinds.essay.toolbar.heading"),
      icon: Heading,
      active: now.heading,
      does: () => chain().toggleHeading({ level: 3 }).run(),
    },
    {
      name: t("kinds.essay.toolbar.bold"),
      icon: Bold,
      active: now.bold,
      does: () => chain().toggleBold().run(),
    },
    {
      name: t("kinds.essay.toolbar.italic"),
      icon: Italic,
      active: now.italic,
      does: () => chain().toggleItalic().run(),
    },
    {
      name: t("kinds.essay.toolbar.list"),
      icon: List,
      active: now.bullets,
      does: () => chain().toggleBulletList().run(),
    },
    {
      name: t("kinds.essay.toolbar.numbered-list"),
      icon: ListOrdered,
      active: now.numbers,
      does: () => chain().toggleOrderedList().run(),
    },
    {
      name: t("kinds.essay.toolbar.table"),
      icon: Table,
      active: now.table,
      off: now.table,
      does: () => chain().insertTable({ rows: 3, cols: 3, withHeaderRow: false }).run(),
    },
    { name: t("kinds.essay.formula-box.formula"), icon: Radical, does: onFormula },
    { name: t("kinds.essay.link-box.link"), icon: LinkSign, active: now.link, does: onLink },
    { name: t("kinds.essay.picture-tools.picture"), icon: ImagePlus, does: onPicture },
    { name: t("kinds.essay.toolbar.undo"), icon: Undo2, off: !now.canUndo, does: () => chain().undo().run() },
    { name: t("kinds.essay.toolbar.redo"), icon: Redo2, off: !now.canRedo, does: () => chain().redo().run() },
  ];
  const tableDeeds: readonly (readonly [name: string, does: () => void])[] = [
    [t("kinds.essay.toolbar.row-below"), () => chain().addRowAfter().run()],
    [t("kinds.essay.toolbar.column-after"), () => chain().addColumnAfter().run()],
    [t("kinds.essay.toolbar.heading-row"), () => chain().toggleHeaderRow().run()],
    [t("kinds.essay.toolbar.delete-row"), () => chain().deleteRow().run()],
    [t("kinds.essay.toolbar.delete-column"), () => chain().deleteColumn().run()],
    [t("kinds.essay.toolbar.delete-table"), () => chain().deleteTable().run()],
  ];
  return (
    <div className="border-b border-line bg-sunk/60">
      <Tools.Root
        data-writing-tools
        aria-label={t("kinds.essay.toolbar.writing-tools-question", { slot })}
        className="flex flex-wrap gap-0.5 p-1"
        onKeyDown={(event) => {
          if (event.key === "Escape") editor.view.focus();
        }}
      >
        <ToolButtons deeds={deeds} />
      </Tools.Root>
      {now.picture && <PictureTools editor={editor} />}
      {now.table && (
        // biome-ignore lint/a11y/useSemanticElements: a toolbar is not a field set
        <div
          role="group"
          aria-label={t("kinds.essay.toolbar.table")}
          className="flex flex-wrap gap-1 border-t border-line p-1"
        >
          {tableDeeds.map(([name, does]) => (
            <button key={name} type="button" className="button button-quiet px-2! font-normal" onClick={does}>
              {name}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
