import { Editor, EditorContent, useEditorState } from "@tiptap/react";
import { Bold, Italic, List, ListOrdered, Sigma, Subscript, Superscript, Table } from "lucide-react";
import { Toolbar as Tools } from "radix-ui";
import { useEffect, useId, useRef, useState } from "react";
import { t } from "@/words/t";
import { FormulaBox } from "../essay/FormulaBox";
import { authorExtensions, forEditor, fromEditor, isHeldWhole } from "./author-text";
import { rowsIn } from "./pasted-rows";
import { ToolButtons, type ToolDeed } from "./ToolButtons";

const NO_VALUES: ReadonlyMap<string, string> = new Map();

interface WrittenTextProps {
  readonly text: string;
  /** What it is, for who cannot see it. */
  readonly label: string;
  /** Stands in its place while it is empty. */
  readonly placeholder?: string;
  readonly language?: string | undefined;
  readonly className?: string;
  /** One line of words: Enter goes on to the next, and tables of lines that are pasted are told. */
  readonly isLine?: boolean;
  readonly values?: ReadonlyMap<string, string>;
  /** Why it has to be put right, if it has. */
  readonly mistake?: string | undefined;
  readonly onChange: (text: string) => void;
  readonly onEnter?: () => void;
  /** Several lines, or cells, were pasted: rows of cells. Answers whether they were taken elsewhere. */
  readonly onRows?: (rows: readonly (readonly string[])[]) => boolean;
  /** The field has the focus from the beginning. */
  readonly isFirst?: boolean;
}

/** A text of the author, written where students will read it. */
export function WrittenText(props: WrittenTextProps) {
  const { text, label, placeholder = "", className = "", mistake } = props;
  const problem = useId();
  const now = useRef(props);
  now.current = props;
  const given = useRef(text);
  const [editor, setEditor] = useState<Editor | null>(null);
  const [asSource, setAsSource] = useState(false);
  const [formula, setFormula] = useState<{ latex: string; at: number | null } | null>(null);
  const isInvalid = mistake !== undefined;

  // It needs the browser: while the server draws the page there is none.
  useEffect(() => {
    const began = now.current;
    const made = new Editor({
      content: forEditor(began.text),
      extensions: authorExtensions({
        onFormula: (latex, at) => setFormula({ latex, at }),
        values: () => now.current.values ?? NO_VALUES,
      }),
      editorProps: {
        attributes: {
          role: "textbox",
          "aria-multiline": began.isLine ? "false" : "true",
          "aria-label": began.label,
          class: "written outline-none",
          ...(began.language ? { lang: began.language } : {}),
        },
        handleKeyDown: (_, event) => {
          if (event.key !== "Enter" || !now.current.isLine || event.shiftKey) return false;
          now.current.onEnter?.();
          return true;
        },
        handlePaste: (_, event) => {
          const rows = rowsIn(event.clipboardData?.getData("text/plain") ?? "");
          return rows !== null && (now.current.onRows?.(rows) ?? false);
        },
      },
    });
    made.on("update", () => {
      given.current = fromEditor(made.getHTML());
      now.current.onChange(given.current);
    });
    const isWhole = began.text === "" || isHeldWhole(began.text, fromEditor(made.getHTML()));
    setAsSource(!isWhole);
    setEditor(made);
    if (began.isFirst) requestAnimationFrame(() => !made.isDestroyed && made.commands.focus("end"));
    return () => made.destroy();
  }, []);

  // What was undone, or written elsewhere.
  useEffect(() => {
    if (!editor || text === given.current) return;
    given.current = text;
    editor.commands.setContent(forEditor(text), { emitUpdate: false });
  }, [editor, text]);

  // What is shown of drawn numbers, and whether it has to be put right, is no part of the text.
  const { values } = props;
  useEffect(() => {
    if (values && editor && !editor.isDestroyed)
      editor.view.dispatch(editor.state.tr.setMeta("drawn", values));
  }, [editor, values]);
  useEffect(() => {
    const box = editor && !editor.isDestroyed ? editor.view.dom : null;
    box?.setAttribute("aria-label", label);
    box?.setAttribute("aria-invalid", String(isInvalid));
    if (isInvalid) box?.setAttribute("aria-describedby", problem);
    else box?.removeAttribute("aria-describedby");
  }, [editor, isInvalid, problem, label]);

  const put = (latex: string) => {
    if (!editor) return;
    if (formula?.at != null) editor.chain().updateInlineMath({ latex, pos: formula.at }).run();
    else editor.chain().insertInlineMath({ latex }).run();
    close();
  };
  const close = () => {
    setFormula(null);
    editor?.view.focus();
  };
  return (
    <div className={`group/written relative ${className}`} data-mistake={isInvalid || undefined}>
      {asSource ? (
        <textarea
          className="field min-h-24 font-mono text-sm"
          aria-label={label}
          aria-invalid={isInvalid}
          value={text}
          onChange={({ target }) => props.onChange(target.value)}
        />
      ) : (
        <div
          className={`min-h-[1.6em] rounded-xs border-b border-dashed px-0.5 focus-within:bg-sheet focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-indigo ${isInvalid ? "border-plum" : "border-line-2"}`}
        >
          {text === "" && placeholder !== "" && (
            <span className="pointer-events-none absolute px-0 text-ink-2 italic" aria-hidden="true">
              {placeholder}
            </span>
          )}
          {editor && <EditorContent editor={editor} />}
        </div>
      )}
      {editor && !asSource && (
        <WritingTools
          editor={editor}
          label={label}
          isLine={props.isLine ?? false}
          onFormula={() => setFormula({ latex: "", at: null })}
        />
      )}
      {formula && <FormulaBox key={formula.at ?? "new"} latex={formula.latex} onPut={put} onClose={close} />}
      {isInvalid && (
        <p id={problem} className="mt-0.5 text-sm text-plum">
          {mistake}
        </p>
      )}
    </div>
  );
}

interface WritingToolsProps {
  readonly editor: Editor;
  readonly label: string;
  readonly isLine: boolean;
  readonly onFormula: () => void;
}

/** The tools above a text that is being written: out of the way, and there by Alt+F10. */
function WritingTools({ editor, label, isLine, onFormula }: WritingToolsProps) {
  const now = useEditorState({
    editor,
    selector: ({ editor: each }) => ({
      bold: each.isActive("bold"),
      italic: each.isActive("italic"),
      sub: each.isActive("sub"),
      sup: each.isActive("sup"),
      bullets: each.isActive("bulletList"),
      numbers: each.isActive("orderedList"),
      table: each.isActive("table"),
    }),
  });
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const box = editor.view.dom;
    const toTools = (event: KeyboardEvent) => {
      if (event.key !== "F10" || !event.altKey) return;
      event.preventDefault();
      bar.current?.querySelector("button")?.focus();
    };
    box.addEventListener("keydown", toTools);
    return () => box.removeEventListener("keydown", toTools);
  }, [editor]);
  const chain = () => editor.chain().focus();
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
      name: t("compose.written-text.below"),
      icon: Subscript,
      active: now.sub,
      does: () => chain().toggleMark("sub").run(),
    },
    {
      name: t("compose.written-text.above"),
      icon: Superscript,
      active: now.sup,
      does: () => chain().toggleMark("sup").run(),
    },
    { name: t("kinds.essay.formula-box.formula"), icon: Sigma, does: onFormula },
    ...(isLine
      ? []
      : [
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
            name: now.table ? t("compose.written-text.row-below") : t("compose.written-text.table"),
            icon: Table,
            active: now.table,
            does: () =>
              now.table ? chain().addRowAfter().run() : chain().insertTable({ rows: 3, cols: 3 }).run(),
          },
        ]),
  ];
  return (
    <Tools.Root
      ref={bar}
      aria-label={t("compose.written-text.tools", { label })}
      className="absolute right-0 bottom-full z-10 mb-1 hidden gap-0.5 rounded-sm border border-line bg-sheet p-0.5 shadow-sm group-focus-within/written:flex"
      onKeyDown={(event) => {
        if (event.key === "Escape") editor.view.focus();
      }}
    >
      <ToolButtons isApart deeds={deeds} />
    </Tools.Root>
  );
}
