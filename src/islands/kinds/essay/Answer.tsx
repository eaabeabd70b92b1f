import type { Editor } from "@tiptap/core";
import { EditorContent, useEditor } from "@tiptap/react";
import { say, t } from "@/words/t";
import "katex/dist/katex.min.css";
import { useContext, useEffect, useLayoutEffect, useRef, useState } from "react";
import { filePath } from "@/core/attempt/paths";
import { type EssayAnswer, type PresentedEssay, rangeWords } from "@/core/kinds/essay/answer";
import { countWords, rangeInWords } from "@/core/text/word-count";
import type { AnswerProps } from "../answer-props";
import { AnswerLanguage } from "../view-contexts";
import { essayExtensions } from "./extensions";
import { FormulaBox } from "./FormulaBox";
import { LinkBox } from "./LinkBox";
import { cursorTo, putPicture } from "./put-picture";
import { Toolbar } from "./Toolbar";

/** After the end of a composition, in ms: by then the editor has taken its word in. */
const COMPOSED = 50;

/** Where a formula is being written: at the cursor, or in the place of one that is there. */
interface Formula {
  readonly latex: string;
  readonly position: number | null;
}

/** A rich text, written on the desk's own paper, with its words counted against what is asked. */
export function EssayView(props: AnswerProps<PresentedEssay, EssayAnswer>) {
  const { attemptId, slot, question, answer, files, closed } = props;
  // The editor lives longer than one drawing: it calls what is current.
  const current = useRef(props);
  current.current = props;
  const written = useRef(answer?.rich ?? "");
  const picker = useRef<HTMLInputElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [formula, setFormula] = useState<Formula | null>(null);
  const [link, setLink] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  const bring = (list: FileList | null | undefined): boolean => {
    const pictures = [...(list ?? [])].filter((file) => file.type.startsWith("image/"));
    if (pictures.length === 0) return false;
    setProblem(null);
    for (const file of pictures) current.current.onFile(file);
    return true;
  };

  const tell = (each: Editor) => {
    // A word that an input method is still putting together is told of once it is chosen.
    if (each.view.composing) return;
    const rich = each.isEmpty ? "" : each.getHTML();
    if (rich === written.current) return;
    written.current = rich;
    current.current.onType(rich === "" ? null : { rich });
  };

  const language = useContext(AnswerLanguage);
  const editor: Editor = useEditor({
    extensions: essayExtensions((latex, position) => setFormula({ latex, position })),
    content: written.current,
    editable: !closed,
    immediatelyRender: true,
    shouldRerenderOnTransaction: false,
    editorProps: {
      attributes: {
        ...(language ? { lang: language } : {}),
        role: "textbox",
        "aria-multiline": "true",
        "aria-labelledby": `question-${slot}`,
        "aria-describedby": `slot-${slot}-words`,
        spellcheck: "true",
        "aria-keyshortcuts": "Alt+F10",
        class: "reading essay min-h-64 px-4 py-3 text-[1.0625rem] leading-relaxed outline-none",
      },
      // Into the writing tools and, by Escape, back: Tab writes in lists and tables.
      handleKeyDown: (_, event) => {
        if (!event.altKey || event.key !== "F10") return false;
        box.current?.querySelector<HTMLElement>("[data-writing-tools] button:not(:disabled)")?.focus();
        return true;
      },
      handleDOMEvents: {
        // The editor takes the word in a moment later.
        compositionend: () => {
          setTimeout(() => tell(editor), COMPOSED);
          return false;
        },
      },
      handlePaste: (_, event) => bring(event.clipboardData?.files),
      handleDrop: (view, event, _, moved) => {
        // What is only moved within the essay is not a new picture.
        if (moved || !bring(event.dataTransfer?.files)) return false;
        cursorTo(view, { left: event.clientX, top: event.clientY });
        return true;
      },
    },
    onUpdate: ({ editor: each }) => tell(each),
    onBlur: () => current.current.onLeave(),
  });

  // What came from elsewhere: the journal, another page, another device.
  const given = answer?.rich ?? "";
  // Before the next key: told later, what is given would be older than what was typed meanwhile, and take its place.
  useLayoutEffect(() => {
    if (given === written.current) return;
    written.current = given;
    editor.commands.setContent(given, { emitUpdate: false });
  }, [editor, given]);
  useEffect(() => {
    editor.setEditable(!closed, false);
  }, [editor, closed]);

  // Pictures that have arrived are put in behind the cursor.
  useEffect(() => {
    for (const file of files.filter(({ state }) => state === "arrived")) {
      const src = filePath(attemptId, file.id);
      putPicture(editor, { src, alt: file.name });
      current.current.onFileDone(file.id);
    }
    for (const file of files.filter(({ state }) => state === "refused")) {
      setProblem(file.problem);
      current.current.onFileDone(file.id);
    }
  }, [editor, files, attemptId]);

  const putFormula = (latex: string) => {
    editor.view.focus();
    if (formula?.position === null || formula === null)
      editor.chain().focus().insertInlineMath({ latex }).run();
    else editor.chain().focus().updateInlineMath({ latex, pos: formula.position }).run();
    setFormula(null);
  };
  const putLink = (href: string) => {
    editor.view.focus();
    const chain = editor.chain().focus().extendMarkRange("link");
    if (href === "") chain.unsetLink().run();
    // With no words chosen the address itself stands there.
    else if (editor.state.selection.empty && link === "")
      chain.insertContent({ type: "text", text: href, marks: [{ type: "link", attrs: { href } }] }).run();
    else chain.setLink({ href }).run();
    setLink(null);
  };
  const count = countWords(given);
  const { least, most } = question.words;
  const asked = rangeInWords(question.words);
  const isShort = least !== undefined && count > 0 && count < least;
  const isBeyond = most !== undefined && count > most;
  const onTheWay = files.filter(({ state }) => state === "sending" || state === "unreachable");
  return (
    <div
      ref={box}
      className="overflow-clip rounded-sm border border-line-2 bg-sheet focus-within:border-indigo"
    >
      {!closed && (
        <Toolbar
          editor={editor}
          slot={slot}
          onFormula={() => setFormula({ latex: "", position: null })}
          onPicture={() => picker.current?.click()}
          onLink={() => setLink(String(editor.getAttributes("link").href ?? ""))}
        />
      )}
      {formula && (
        <FormulaBox
          key={formula.position}
          latex={formula.latex}
          onPut={putFormula}
          onClose={() => {
            setFormula(null);
            editor.view.focus();
          }}
        />
      )}
      {link !== null && (
        <LinkBox
          href={link}
          onPut={putLink}
          onClose={() => {
            setLink(null);
            editor.view.focus();
          }}
        />
      )}
      {problem && (
        <div
          role="alert"
          ref={(place) => place?.scrollIntoView({ block: "nearest" })}
          className="flex items-start justify-between gap-4 border-b border-line bg-plum-2 px-4 py-2 text-plum"
        >
          <p>{problem}</p>
          <button type="button" className="min-h-6 shrink-0 underline" onClick={() => setProblem(null)}>
            {t("kinds.essay.answer.put-away")}
          </button>
        </div>
      )}
      <EditorContent editor={editor} />
      <input
        ref={picker}
        type="file"
        className="hidden"
        accept="image/*"
        aria-label={t("kinds.essay.answer.picture-for-question", { slot })}
        onChange={(event) => {
          bring(event.target.files);
          event.target.value = "";
        }}
      />
      <div className="sticky bottom-0 flex flex-wrap justify-between gap-x-6 gap-y-1 border-t border-line bg-sheet px-4 py-2 max-lg:bottom-28">
        <p
          id={`slot-${slot}-words`}
          className={`text-[0.8125rem] ${isBeyond || isShort ? "text-ochre" : "text-ink-2"}`}
        >
          <b>{say(rangeWords(count, question.words))}</b>
          {asked && t("kinds.essay.answer.asked-for", { asked })}
        </p>
        {onTheWay.map((file) => (
          <p key={file.id} className="small" role="status">
            {file.state === "unreachable"
              ? t("kinds.essay.answer.waits-for-the-connection", { name: file.name })
              : t("kinds.essay.answer.is-on-its-way", { name: file.name })}
          </p>
        ))}
      </div>
    </div>
  );
}
