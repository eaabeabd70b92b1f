import type { AnswerView } from "@/core/desk/room-view";
import { RichText } from "@/ui/RichText";
import { t } from "@/words/t";

/** The question as its student saw it, and what a good answer holds. */
export function QuestionAside({ answer }: { readonly answer: AnswerView }) {
  const picture = answer.pictures.find(({ id }) => id === answer.figure);
  return (
    <section className="mb-6 border-b border-line pb-6" aria-label={t("marking.question-aside.the-question")}>
      {answer.stimulus && (
        <details className="stimulus mb-4">
          <summary className="label">{t("kinds.question-material.for-this-section")}</summary>
          <RichText lang={answer.language} className="reading" html={answer.stimulus.text} />
        </details>
      )}
      <RichText
        lang={answer.language}
        className="reading text-[1.125rem] leading-relaxed"
        html={answer.text}
      />
      {picture && (
        <img
          className="mt-3 block h-auto max-h-80 w-auto max-w-full rounded-sm border border-line bg-white"
          src={`${answer.base}/pictures/${picture.id}`}
          alt={picture.alt}
          width={picture.width}
          height={picture.height}
        />
      )}
      {answer.recording && (
        <figure className="mt-3" lang={answer.language}>
          <figcaption className="small mb-1">{answer.recording.title}</figcaption>
          {answer.recording.kind === "sound" ? (
            // biome-ignore lint/a11y/useMediaCaption: its words stand below it
            <audio
              className="w-full"
              controls
              preload="none"
              src={`${answer.base}/recordings/${answer.recording.id}`}
            />
          ) : (
            // biome-ignore lint/a11y/useMediaCaption: its words stand below it
            <video
              className="w-full max-w-[30rem]"
              controls
              preload="none"
              src={`${answer.base}/recordings/${answer.recording.id}`}
            />
          )}
        </figure>
      )}
      {answer.model && (
        <>
          <h3 className="label mt-4">{t("pages.paper-sheet.what-a-good-answer-holds")}</h3>
          <RichText lang={answer.answerLanguage} className="reading mt-1.5" html={answer.model} />
        </>
      )}
    </section>
  );
}
