import { useEffect, useMemo, useRef, useState } from "react";
import type { AnswerView } from "@/core/desk/room-view";
import type { HandWork } from "@/core/marking/hand-work";
import type { NoteAnchor } from "@/core/reveal/note-anchor";
import { withPassages } from "@/core/reveal/passages";
import { RichText } from "@/ui/RichText";
import { say, t } from "@/words/t";
import { FileSheet } from "../files/FileSheet";
import { selectedWords } from "./selected-words";

interface AnswerSheetProps {
  readonly answer: AnswerView;
  readonly work: HandWork;
  readonly mayWrite: boolean;
  /** Pins a note to what was pointed at. */
  readonly onPin: (anchor: NoteAnchor) => void;
}

/** What was written, as its student saw it, with the passages and places that notes are pinned to. */
export function AnswerSheet({ answer, work, mayWrite, onPin }: AnswerSheetProps) {
  const written = answer.answer;
  if (written.kind === "rich")
    return (
      <Essay
        rich={written.rich}
        language={answer.answerLanguage}
        notes={work.notes}
        mayWrite={mayWrite}
        onPin={onPin}
      />
    );
  if (written.kind === "lines")
    return (
      <div className="sheet px-5 py-4" lang={answer.answerLanguage}>
        {written.lines.map((line, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the parts of an answer, in their order
          <p key={i} className="reading text-[1.125rem]">
            {say(line) || t("marking.answer-sheet.nothing-was-written")}
          </p>
        ))}
      </div>
    );
  return (
    <div className="grid gap-6">
      {written.files.map((file, place) => (
        <FileSheet
          key={file.id}
          name={file.name}
          size={file.size}
          type={file.type}
          address={`${answer.base}/files/${file.id}`}
          notes={work.notes.flatMap(({ anchor, text }, i) =>
            anchor?.kind === "spot" && anchor.file === place ? [{ ...anchor, number: i + 1, text }] : [],
          )}
          {...(mayWrite
            ? {
                onPlace: (page: number, box: { x: number; y: number; width: number; height: number }) =>
                  onPin({ kind: "spot", file: place, page, ...box }),
              }
            : {})}
        />
      ))}
      {written.files.length === 0 && (
        <p className="text-ink-2">{t("marking.answer-sheet.no-file-was-handed-in")}</p>
      )}
      {written.beside && (
        <section aria-label={t("pages.answer-shown.beside-the-files")}>
          <h3 className="label">{t("pages.answer-shown.beside-the-files")}</h3>
          <p className="reading mt-1.5 whitespace-pre-wrap" lang={answer.answerLanguage}>
            {written.beside}
          </p>
        </section>
      )}
    </div>
  );
}

interface EssayProps {
  readonly rich: string;
  readonly language: string;
  readonly notes: HandWork["notes"];
  readonly mayWrite: boolean;
  readonly onPin: (anchor: NoteAnchor) => void;
}

function Essay({ rich, language, notes, mayWrite, onPin }: EssayProps) {
  const sheet = useRef<HTMLDivElement>(null);
  const [selected, setSelected] = useState<ReturnType<typeof selectedWords>>(null);
  const marked = useMemo(
    () =>
      withPassages(
        rich,
        notes.map(({ anchor }) =>
          anchor?.kind === "words" ? { words: anchor.words, from: anchor.from } : { words: "" },
        ),
      ).rich,
    [rich, notes],
  );
  useEffect(() => {
    const look = () => setSelected(sheet.current ? selectedWords(sheet.current) : null);
    document.addEventListener("selectionchange", look);
    return () => document.removeEventListener("selectionchange", look);
  }, []);
  return (
    <div className="sheet px-6 py-5 max-sm:px-4">
      <RichText
        ref={sheet}
        isAnswer
        lang={language}
        className="reading essay text-[1.1875rem] leading-relaxed"
        html={marked}
      />
      {mayWrite && selected && (
        <p className="sticky bottom-20 z-10 mt-3 flex">
          <button
            type="button"
            className="button button-main shadow-md"
            onPointerDown={(event) => {
              // Before the press takes the selection away.
              event.preventDefault();
              onPin(selected);
              getSelection()?.removeAllRanges();
            }}
            onClick={() => {
              const now = selected;
              if (now && getSelection()?.toString()) onPin(now);
            }}
          >
            {t("marking.answer-sheet.write-beside-these-words")} <kbd className="key key-on">M</kbd>
          </button>
        </p>
      )}
    </div>
  );
}
