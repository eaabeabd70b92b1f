import { useState } from "react";
import type { OptionContent } from "@/core/kinds/picks/content";
import { t } from "@/words/t";
import { drawnTex } from "../drawn-tex";
import { FormulaBox } from "../essay/FormulaBox";
import { PictureWritten } from "./PictureWritten";
import { WrittenText } from "./WrittenText";

interface ContentWrittenProps<C extends OptionContent> {
  readonly content: C;
  /** What it is: "option B". */
  readonly name: string;
  readonly placeholder: string;
  readonly language: string | undefined;
  readonly mistake?: string | undefined;
  readonly onChange: (next: C, isTyped: boolean) => void;
  readonly onEnter?: () => void;
  readonly onRows?: (rows: readonly (readonly string[])[]) => boolean;
  readonly isFirst?: boolean;
}

/** What an option, a prompt or an item shows, written in its place: words, and a formula or a picture beside them. */
export function ContentWritten<C extends OptionContent>(props: ContentWrittenProps<C>) {
  const { content, name, placeholder, language, mistake, onChange } = props;
  const [isFormula, setFormula] = useState(false);
  const without = (field: "formula" | "picture"): C => {
    const { [field]: _, ...rest } = content;
    return rest as C;
  };
  return (
    <div className="min-w-0">
      <WrittenText
        isLine
        text={content.text}
        label={name}
        placeholder={placeholder}
        language={language}
        mistake={mistake}
        onChange={(text) => onChange({ ...content, text }, true)}
        {...(props.onEnter ? { onEnter: props.onEnter } : {})}
        {...(props.onRows ? { onRows: props.onRows } : {})}
        {...(props.isFirst ? { isFirst: true } : {})}
      />
      {content.formula !== undefined && !isFormula && (
        <p className="mt-1 flex flex-wrap items-center gap-3">
          {/* biome-ignore lint/security/noDangerouslySetInnerHtml: drawn from TeX, which runs nothing */}
          <span dangerouslySetInnerHTML={{ __html: drawnTex(content.formula) }} />
          <button type="button" className="small min-h-6 underline" onClick={() => setFormula(true)}>
            {t("compose.content-written.change-formula", { name })}
          </button>
          <button
            type="button"
            className="small min-h-6 underline"
            onClick={() => onChange(without("formula"), false)}
          >
            {t("compose.content-written.remove-formula", { name })}
          </button>
        </p>
      )}
      {isFormula && (
        <FormulaBox
          latex={content.formula ?? ""}
          onPut={(formula) => {
            setFormula(false);
            onChange({ ...content, formula }, false);
          }}
          onClose={() => setFormula(false)}
        />
      )}
      {content.picture !== undefined && (
        <PictureWritten
          isSmall
          id={content.picture}
          label={t("compose.content-written.picture-for", { name })}
          onPut={({ id }) => onChange({ ...content, picture: id }, false)}
          onRemove={() => onChange(without("picture"), false)}
        />
      )}
    </div>
  );
}

/** Puts a picture beside the words of an option, a prompt or an item that has none yet. */
export function AddPicture<C extends OptionContent>({
  content,
  name,
  onChange,
}: Pick<ContentWrittenProps<C>, "content" | "name" | "onChange">) {
  if (content.picture !== undefined) return null;
  return (
    <PictureWritten
      isSmall
      id={undefined}
      label={t("compose.content-written.picture-for", { name })}
      onPut={({ id }) => onChange({ ...content, picture: id }, false)}
      onRemove={() => {}}
    />
  );
}
