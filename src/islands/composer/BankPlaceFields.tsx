import { useId } from "react";
import { t } from "@/words/t";

interface BankPlaceFieldsProps {
  readonly topic: string;
  /** As they are typed, with commas between them. */
  readonly tags: string;
  /** Topics that there are. */
  readonly topics: readonly string[];
  readonly onTopic: (topic: string) => void;
  readonly onTags: (tags: string) => void;
}

/** The tags in what is typed: what stands between commas. */
export const tagsIn = (typed: string): string[] =>
  typed
    .split(/[,、]/)
    .map((tag) => tag.trim())
    .filter((tag) => tag !== "");

/** Where a question stands in the bank: its topic, and its tags. */
export function BankPlaceFields({ topic, tags, topics, onTopic, onTags }: BankPlaceFieldsProps) {
  const list = useId();
  return (
    <>
      <label className="grid gap-1">
        <span className="small">{t("composer.bank-strip.topic")}</span>
        <input
          className="field min-h-9 w-56 py-1"
          list={list}
          maxLength={80}
          required
          value={topic}
          onChange={({ target }) => onTopic(target.value)}
        />
        <datalist id={list}>
          {topics.map((each) => (
            <option key={each} value={each} />
          ))}
        </datalist>
      </label>
      <label className="grid gap-1">
        <span className="small">{t("composer.bank-strip.tags")}</span>
        <input
          className="field min-h-9 w-56 py-1"
          maxLength={300}
          value={tags}
          onChange={({ target }) => onTags(target.value)}
        />
      </label>
    </>
  );
}
