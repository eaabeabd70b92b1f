import katex from "katex";
import { type FormEvent, useState } from "react";
import { formulaProblem } from "@/core/text/formulas";

interface FormulaBoxProps {
  readonly latex: string;
  readonly onPut: (latex: string) => void;
  readonly onClose: () => void;
}

const DRAWING = { trust: false, output: "htmlAndMathml", maxExpand: 200, maxSize: 8 } as const;

/** The formula drawn; what is wrong with it in red, and nothing where it cannot be read at all. */
function drawnOrWords(tex: string): string {
  try {
    return katex.renderToString(tex, { ...DRAWING, throwOnError: false });
  } catch {
    return "";
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
  const problem = formulaProblem(text.trim());
  const drawn = text.trim() === "" || problem !== null ? "" : drawnOrWords(text);
  return (
    <form
      onSubmit={put}
      aria-label="Formula"
      className="flex flex-wrap items-end gap-3 border-b border-line bg-margin p-3"
    >
      <label className="min-w-48 flex-1">
        <span className="small font-bold">Formula, in TeX</span>
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
        <p role="alert" className="basis-full border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
          {problem}
        </p>
      )}
      <span
        className="min-h-11 min-w-16 self-end px-2 pb-2 text-lg"
        // biome-ignore lint/security/noDangerouslySetInnerHtml: drawn from TeX, which runs nothing
        dangerouslySetInnerHTML={{ __html: drawn }}
      />
      <button type="submit" className="button border-indigo text-indigo">
        Put it in
      </button>
      <button type="button" className="button" onClick={onClose}>
        Close
      </button>
    </form>
  );
}
