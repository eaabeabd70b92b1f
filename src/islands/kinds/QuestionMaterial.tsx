import { recordingPath } from "@/core/attempt/paths";
import type { Recording, Stimulus as StimulusOf } from "@/core/kinds/kind";
import { t } from "@/words/t";
import { Figure } from "./pictures";

/** What the questions of a section are about together, above the question; may be folded away. */
export function Stimulus({
  stimulus,
  language,
}: {
  readonly stimulus: StimulusOf;
  readonly language: string;
}) {
  return (
    <details open className="stimulus mb-5">
      <summary className="label">{t("kinds.question-material.for-this-section")}</summary>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in */}
      <div lang={language} className="reading" dangerouslySetInnerHTML={{ __html: stimulus.text }} />
      <Figure id={stimulus.figure} />
    </details>
  );
}

/** A sound or a film below the text of a question, by the browser's own player, with its words. */
export function RecordingPlayer({
  attemptId,
  recording,
  language,
}: {
  readonly attemptId: string;
  readonly recording: Recording;
  readonly language: string;
}) {
  const { kind, title, transcript } = recording;
  const src = recordingPath(attemptId, recording.id);
  return (
    <figure className="mb-4">
      <figcaption lang={language} className="small mb-1">
        {title}
      </figcaption>
      {kind === "sound" ? (
        // biome-ignore lint/a11y/useMediaCaption: its words stand below it
        <audio controls preload="auto" src={src} aria-label={title} className="w-full" />
      ) : (
        // biome-ignore lint/a11y/useMediaCaption: its words stand below it
        <video
          controls
          preload="auto"
          src={src}
          aria-label={title}
          style={{ aspectRatio: recording.aspect }}
          className="w-full max-w-[30rem]"
        />
      )}
      <details className="mt-1">
        <summary className="small">
          {kind === "sound"
            ? t("kinds.question-material.what-is-heard")
            : t("kinds.question-material.what-is-seen")}
        </summary>
        {/* biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in */}
        <div lang={language} className="reading" dangerouslySetInnerHTML={{ __html: transcript }} />
      </details>
    </figure>
  );
}
