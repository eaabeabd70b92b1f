import { HEAD, type HeadPiece } from "@/core/draft/pieces";
import { t } from "@/words/t";
import { PlainField } from "../kinds/writing/fields";
import { stepNames } from "../kinds/writing/step-names";
import { WrittenText } from "../kinds/writing/WrittenText";
import type { ComposerStore } from "./composer-store";
import { LanguageField } from "./LanguageField";

interface HeadWrittenProps {
  readonly store: ComposerStore;
  readonly head: HeadPiece;
  readonly mistakes: ReadonlyMap<string, string>;
}

/** What stands above the questions and beside them: title, the words before the start, the reference sheet. */
export function HeadWritten({ store, head, mistakes }: HeadWrittenProps) {
  const set = (name: keyof HeadPiece, value: string | undefined) => {
    const { [name]: _, ...rest } = head;
    const next = {
      ...rest,
      ...(value === undefined || (value === "" && name !== "title") ? {} : { [name]: value }),
    };
    store.change(new Map([[HEAD, next as HeadPiece]]), stepNames.typing(), `head ${name}`);
  };
  return (
    <section aria-labelledby="head-of-quiz" className="grid max-w-[43.75rem] gap-6">
      <h2 id="head-of-quiz" className="label">
        {t("composer.head-written.before-the-questions")}
      </h2>
      <PlainField
        label={t("composer.head-written.title")}
        language={head.language}
        maxLength={200}
        value={head.title}
        mistake={mistakes.get("title")}
        onChange={(title) => set("title", title)}
      />
      <div>
        <span className="label">{t("composer.head-written.before-the-start")}</span>
        <p className="small">{t("composer.head-written.before-the-start-hint")}</p>
        <WrittenText
          className="reading mt-1"
          text={head.brief ?? ""}
          label={t("composer.head-written.before-the-start")}
          placeholder={t("composer.head-written.what-to-read-first")}
          language={head.language}
          mistake={mistakes.get("brief")}
          onChange={(text) => set("brief", text)}
        />
      </div>
      <div>
        <span className="label">{t("composer.head-written.reference-sheet")}</span>
        <p className="small">{t("composer.head-written.reference-hint")}</p>
        <WrittenText
          className="reading mt-1"
          text={head.reference ?? ""}
          label={t("composer.head-written.reference-sheet")}
          language={head.language}
          mistake={mistakes.get("reference")}
          onChange={(text) => set("reference", text)}
        />
      </div>
      <LanguageField
        label={t("composer.head-written.language")}
        value={head.language}
        mistake={mistakes.get("language")}
        onChange={(tag) => set("language", tag)}
      />
    </section>
  );
}
