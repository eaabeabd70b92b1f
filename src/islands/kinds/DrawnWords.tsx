import { useContext } from "react";
import { lineWithFormulas } from "@/core/text/plain-text";
import { ContentLanguage } from "./view-contexts";

/** Rich text in one line, with its formulas drawn. */
export function DrawnWords({ html, className }: { readonly html: string; readonly className?: string }) {
  const language = useContext(ContentLanguage);
  return (
    <span
      lang={language}
      className={className}
      // biome-ignore lint/security/noDangerouslySetInnerHtml: escaped words, and formulas that the server drew
      dangerouslySetInnerHTML={{ __html: lineWithFormulas(html) }}
    />
  );
}
