import type { Ref } from "react";

interface RichTextProps {
  /** Cleaned on the way in. */
  readonly html: string;
  readonly lang?: string | undefined;
  readonly className?: string;
  readonly ref?: Ref<HTMLDivElement>;
  /** Marks it as what was answered: words of it can be selected. */
  readonly isAnswer?: boolean;
}

/** A rich text of an author or a student, as it is stored. */
export const RichText = ({ html, lang, className = "reading", ref, isAnswer = false }: RichTextProps) => (
  <div
    ref={ref}
    lang={lang}
    className={className}
    data-answer={isAnswer ? "" : undefined}
    // biome-ignore lint/security/noDangerouslySetInnerHtml: cleaned on the way in, and shown under a policy that runs nothing
    dangerouslySetInnerHTML={{ __html: html }}
  />
);
