import katex from "katex";
import { type FormEvent, useState } from "react";
import { formulaProblem } from "@/core/text/formulas";
import { say, t } from "@/words/t";
import { DRAWING } from "../drawn-tex";

interface FormulaBoxProps {
  readonly latex: string;
  readonly onPut: (latex: string) => void;
  readonly onClose: () => void;
}

/** The formula drawn, or in a sentence why it cannot be. */
function drawn(tex: string): { readonly html: string; readonly problem: string | null } {
  try {
    return {
      html: katex.renderToString(tex, { ...DRAWING, output: "htmlAndMathml", throwOnError: true }),
      problem: null,
    };
  } catch (error) {
    const why = error instanceof Error ? error.message.replace(/^KaTeX parse error: /, "") : "";
    return { html: "", problem: t("kinds.essay.formula-box.this-formula-cannot-be-read-so", { why }) };
  }
}

/** Writes a formula in TeX, with what it will look like beside it. */
export function FormulaBox({ latex, onPut, onClose }: FormulaBoxProps) {
  const [text, setText] = useState(latex);
  const put = (event: FormEvent) => {
    event.preventDefault();
    // Not the form of anything around it.
    event.stopPropagation();
    if (text.trim() !== "" && problem === null) onPut(text.trim());
  };
  const refused = formulaProblem(text.trim());
  const { html, problem: unreadable } =
    text.trim() === "" || refused !== null ? { html: "", problem: null } : drawn(text);
  const problem = refused ?? unreadable;
  return (
    <form
      onSubmit={put}
      aria-label={t("kinds.essay.formula-box.formula")}
      className="flex flex-wrap items-end gap-3 border-b border-line bg-margin p-3"
    >
      <label className="min-w-48 flex-1">
        <span className="small font-bold">{t("kinds.essay.formula-box.formula-in-tex")}</span>
        <input
          className="field mt-1 font-mono"
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder="\frac{d}{t}"
          autoComplete="off"
          spellCheck={false}
          ref={(input) => input?.focus()}
        />
      </label>
      {problem && (
        <p role="status" className="basis-full border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
          {say(problem)}
        </p>
      )}
      <span
        className="min-h-11 min-w-16 self-end px-2 pb-2 text-lg"
        // biome-ignore lint/security/noDangerouslySetInnerHtml: drawn from TeX, which runs nothing
        dangerouslySetInnerHTML={{ __html: html }}
      />
      <button
        type="submit"
        className="button border-indigo text-indigo disabled:border-line-2 disabled:text-ink-3"
        disabled={text.trim() === "" || problem !== null}
      >
        {t("kinds.essay.formula-box.put-it-in")}
      </button>
      <button type="button" className="button" onClick={onClose}>
        {t("kinds.essay.formula-box.close")}
      </button>
    </form>
  );
}
