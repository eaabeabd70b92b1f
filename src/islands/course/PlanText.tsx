import { Editor, EditorContent, useEditorState } from "@tiptap/react";
import { StarterKit } from "@tiptap/starter-kit";
import { Bold, Italic, Link as LinkSign, List, ListOrdered } from "lucide-react";
import { Toolbar as Tools } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { t } from "@/words/t";
import { LinkBox } from "../kinds/essay/LinkBox";
import { ToolButtons, type ToolDeed } from "../kinds/writing/ToolButtons";

interface PlanTextProps {
  readonly text: string;
  /** What it is, for who cannot see it. */
  readonly label: string;
  readonly onChange: (text: string) => void;
}

const newEditor = (text: string, label: string): Editor =>
  new Editor({
    content: text,
    extensions: [
      StarterKit.configure({
        heading: { levels: [3, 4] },
        link: {
          openOnClick: false,
          autolink: true,
          protocols: ["https", "mailto"],
          defaultProtocol: "https",
        },
        codeBlock: false,
        trailingNode: false,
      }),
    ],
    editorProps: {
      attributes: {
        class: "reading min-h-16 px-3 py-2 outline-none",
        role: "textbox",
        "aria-multiline": "true",
        "aria-label": label,
      },
    },
  });

/** Rich text of a course's plan, written in its place. */
export function PlanText({ text, label, onChange }: PlanTextProps) {
  const [editor, setEditor] = useState<Editor | null>(null);
  const began = useRef({ text, label });
  const told = useRef(onChange);
  told.current = onChange;
  // It needs the browser: while the server draws the page there is none.
  useEffect(() => {
    const made = newEditor(began.current.text, began.current.label);
    made.on("update", () => told.current(made.getHTML()));
    setEditor(made);
    return () => made.destroy();
  }, []);
  return (
    <div className="border border-line-2 bg-sheet focus-within:border-indigo">
      {editor === null ? (
        <div className="min-h-26" />
      ) : (
        <>
          <WritingTools editor={editor} label={label} />
          <EditorContent editor={editor} />
        </>
      )}
    </div>
  );
}

function WritingTools({ editor, label }: { readonly editor: Editor; readonly label: string }) {
  const [isLinking, setLinking] = useState(false);
  const now = useEditorState({
    editor,
    selector: ({ editor: each }) => ({
      bold: each.isActive("bold"),
      italic: each.isActive("italic"),
      bullets: each.isActive("bulletList"),
      numbers: each.isActive("orderedList"),
      link: each.isActive("link"),
    }),
  });
  const chain = () => {
    editor.view.focus();
    return editor.chain().focus();
  };
  const deeds: readonly ToolDeed[] = [
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
      name: t("kinds.essay.link-box.link"),
      icon: LinkSign,
      active: now.link,
      does: () => setLinking(true),
    },
  ];
  const put = (href: string) => {
    setLinking(false);
    const chosen = chain().extendMarkRange("link");
    if (href === "") chosen.unsetLink().run();
    else if (editor.state.selection.empty && !now.link)
      chosen.insertContent({ type: "text", text: href, marks: [{ type: "link", attrs: { href } }] }).run();
    else chosen.setLink({ href }).run();
  };
  return (
    <>
      <Tools.Root
        aria-label={t("course.plan-text.writing-tools", { label })}
        className="flex flex-wrap gap-0.5 border-b border-line bg-sunk/60 p-0.5"
      >
        <ToolButtons deeds={deeds} />
      </Tools.Root>
      {isLinking && (
        <LinkBox
          href={String(editor.getAttributes("link").href ?? "")}
          onPut={put}
          onClose={() => {
            setLinking(false);
            editor.view.focus();
          }}
        />
      )}
    </>
  );
}
