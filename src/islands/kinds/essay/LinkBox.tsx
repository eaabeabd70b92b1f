import { type FormEvent, useState } from "react";
import { t } from "@/words/t";

interface LinkBoxProps {
  readonly href: string;
  /** With "" the link is taken away. */
  readonly onPut: (href: string) => void;
  readonly onClose: () => void;
}

/** An address as it can be linked, or null: https, or mail. What has no scheme is taken as https. */
function linkable(text: string): string | null {
  const whole = text.trim();
  if (/^[^\s@/]+@[^\s@/]+\.[^\s@/]+$/.test(whole)) return `mailto:${whole}`;
  const address = /^[a-z][a-z0-9+.-]*:/i.test(whole) ? whole : `https://${whole}`;
  try {
    const { protocol, hostname } = new URL(address);
    if (protocol === "mailto:") return address;
    return protocol === "https:" && hostname.includes(".") ? address : null;
  } catch {
    return null;
  }
}

/** The address that the chosen words lead to. */
export function LinkBox({ href, onPut, onClose }: LinkBoxProps) {
  const [text, setText] = useState(href.replace(/^mailto:/, ""));
  const address = linkable(text);
  const problem = text.trim() !== "" && address === null;
  const put = (event: FormEvent) => {
    event.preventDefault();
    event.stopPropagation();
    if (address !== null) onPut(address);
  };
  return (
    <form
      onSubmit={put}
      aria-label={t("kinds.essay.link-box.link")}
      className="flex flex-wrap items-end gap-3 border-b border-line bg-margin p-3"
    >
      <label className="min-w-48 flex-1">
        <span className="small font-bold">{t("kinds.essay.link-box.where-the-words-lead-to")}</span>
        <input
          className="field mt-1"
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={t("kinds.essay.link-box.example")}
          autoComplete="off"
          spellCheck={false}
          aria-invalid={problem}
          ref={(input) => input?.focus()}
        />
      </label>
      {problem && (
        <p role="status" className="basis-full text-[0.8125rem] text-ochre">
          {t("kinds.essay.link-box.an-address-begins-with-https-and")}
        </p>
      )}
      <button
        type="submit"
        className="button border-indigo text-indigo disabled:border-line-2 disabled:text-ink-3"
        disabled={address === null}
      >
        {t("kinds.essay.link-box.link-it")}
      </button>
      {href !== "" && (
        <button type="button" className="button" onClick={() => onPut("")}>
          {t("kinds.essay.link-box.take-the-link-away")}
        </button>
      )}
      <button type="button" className="button" onClick={onClose}>
        {t("kinds.essay.formula-box.close")}
      </button>
    </form>
  );
}
