import { type RefObject, useEffect, useRef } from "react";
import type { RemarkLine } from "@/core/desk/room-view";
import type { HandNote, HandWork } from "@/core/marking/hand-work";
import { t } from "@/words/t";
import { RemarkField } from "./RemarkField";

interface MarginProps {
  readonly work: HandWork;
  readonly whole: HandWork;
  readonly disabled: boolean;
  readonly remarks: readonly RemarkLine[];
  /** The note that was just pinned: its field takes the focus. */
  readonly fresh: string | null;
  readonly feedbackField: RefObject<HTMLTextAreaElement | null>;
  readonly onNotes: (notes: readonly HandNote[], words: string | null) => void;
  readonly onFeedback: (feedback: string) => void;
  readonly onWhole: (feedback: string) => void;
  readonly onUsed: (remark: RemarkLine) => void;
  readonly onKeep: (text: string) => void;
}

const placeWords = ({ anchor }: HandNote): string =>
  anchor === null
    ? t("marking.margin.on-the-whole-answer")
    : anchor.kind === "words"
      ? t("pages.margin-notes.on", { about: anchor.words })
      : t("pages.margin-notes.on-page", { page: anchor.page });

/** What is written in the margin, on the whole answer, and on the whole paper. */
export function Margin(props: MarginProps) {
  const { work, whole, disabled, remarks, onNotes } = props;
  const change = (id: string, text: string) =>
    onNotes(
      work.notes.map((note) => (note.id === id ? { ...note, text } : note)),
      null,
    );
  return (
    <div className="grid content-start gap-7">
      <section aria-labelledby="in-the-margin">
        <h2 id="in-the-margin" className="label">
          {t("marking.margin.in-the-margin")}
        </h2>
        {work.notes.length === 0 ? (
          <p className="small mt-2">{t("marking.margin.select-words-to-write-beside-them")}</p>
        ) : (
          <ol className="mt-3 grid gap-4">
            {work.notes.map((note, i) => (
              <li key={note.id} className="border-l-[3px] border-indigo pl-3">
                <Note
                  note={note}
                  number={i + 1}
                  isFresh={note.id === props.fresh}
                  disabled={disabled}
                  remarks={remarks}
                  onChange={(text) => change(note.id, text)}
                  onUsed={props.onUsed}
                  onKeep={() => props.onKeep(note.text)}
                  onRemove={() =>
                    onNotes(
                      work.notes.filter(({ id }) => id !== note.id),
                      t("marking.margin.a-note-taken-away"),
                    )
                  }
                />
              </li>
            ))}
          </ol>
        )}
      </section>
      <RemarkField
        label={t("marking.margin.on-the-whole-question")}
        value={work.feedback}
        rows={3}
        placeholder={t("marking.margin.what-would-have-made-it-better")}
        disabled={disabled}
        remarks={remarks}
        fieldRef={props.feedbackField}
        onChange={props.onFeedback}
        onUsed={props.onUsed}
      />
      <details>
        <summary className="label min-h-6">{t("marking.margin.on-the-whole-paper")}</summary>
        <div className="mt-2">
          <RemarkField
            label={t("marking.margin.on-the-whole-paper")}
            hidesLabel
            value={whole.feedback}
            rows={3}
            placeholder={t("marking.margin.what-stands-above-all")}
            disabled={disabled}
            remarks={remarks}
            onChange={props.onWhole}
            onUsed={props.onUsed}
          />
        </div>
      </details>
    </div>
  );
}

interface NoteProps {
  readonly note: HandNote;
  readonly number: number;
  readonly isFresh: boolean;
  readonly disabled: boolean;
  readonly remarks: readonly RemarkLine[];
  readonly onChange: (text: string) => void;
  readonly onUsed: (remark: RemarkLine) => void;
  readonly onKeep: () => void;
  readonly onRemove: () => void;
}

function Note({ note, number, isFresh, disabled, remarks, onChange, onUsed, onKeep, onRemove }: NoteProps) {
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    if (isFresh) field.current?.focus();
  }, [isFresh]);
  return (
    <>
      <p className="small mb-1.5 line-clamp-2">
        <b>{number}</b> {placeWords(note)}
      </p>
      <RemarkField
        label={t("marking.margin.note", { number })}
        hidesLabel
        fieldRef={field}
        value={note.text}
        rows={2}
        disabled={disabled}
        remarks={remarks}
        onChange={onChange}
        onUsed={onUsed}
      />
      {!disabled && (
        <p className="mt-1 flex gap-4">
          <button type="button" className="small min-h-6 underline" onClick={onRemove}>
            {t("marking.margin.take-it-away")}
          </button>
          {note.text.trim() !== "" && (
            <button type="button" className="small min-h-6 underline" onClick={onKeep}>
              {t("marking.margin.keep-as-a-remark")}
            </button>
          )}
        </p>
      )}
    </>
  );
}
