import { useState } from "react";
import { type BankChoice, type BankQuestion, isChosen } from "@/core/draft/bank";
import type { OutlineSection } from "@/core/draft/pieces";
import { given } from "@/core/given";
import { ask } from "@/ui/requests";
import { t } from "@/words/t";
import type { ComposerStore } from "./composer-store";
import type { DraftDeeds } from "./draft-deeds";
import { topicsOf, useBankLines } from "./use-bank-lines";

interface DrawnFromProps {
  readonly store: ComposerStore;
  readonly deeds: DraftDeeds;
  readonly section: OutlineSection;
}

/** Whether a section has the questions of a topic of the bank, always as the bank has them. */
export function DrawnFrom({ store, deeds, section }: DrawnFromProps) {
  const { lines, problem } = useBankLines(store);
  const [busy, setBusy] = useState(false);
  const { bank } = section;
  const topics = topicsOf(lines);
  const tags = [
    ...new Set((lines ?? []).filter(({ topic }) => topic === bank?.topic).flatMap((line) => line.tags)),
  ].sort();
  const choose = async (choice: BankChoice | undefined) => {
    setBusy(true);
    try {
      const questions = choice
        ? await ask<BankQuestion[]>(`${store.path}/bank`, { body: { ids: [], ...choice } })
        : [];
      deeds.drawFromBank(section.id, choice, questions);
    } catch (error) {
      store.fail(error);
    }
    setBusy(false);
  };
  if (lines !== null && topics.length === 0 && !bank) return null;
  const count = bank ? (lines ?? []).filter((line) => isChosen(line, bank)).length : 0;
  return (
    <div className="grid gap-2 border-t border-line pt-4">
      <span className="label">{t("composer.drawn-from.from-the-bank")}</span>
      <p className="small">{t("composer.drawn-from.how")}</p>
      {problem && <p className="text-plum">{problem}</p>}
      <p className="flex flex-wrap items-end gap-4">
        <label className="grid gap-1">
          <span className="small">{t("composer.drawn-from.topic")}</span>
          <select
            className="field min-w-56"
            disabled={busy || lines === null}
            value={bank?.topic ?? ""}
            onChange={({ target }) => void choose(target.value === "" ? undefined : { topic: target.value })}
          >
            <option value="">{t("composer.drawn-from.no-topic")}</option>
            {[...new Set([...topics, ...(bank ? [bank.topic] : [])])].map((topic) => (
              <option key={topic} value={topic}>
                {topic}
              </option>
            ))}
          </select>
        </label>
        {bank && tags.length > 0 && (
          <label className="grid gap-1">
            <span className="small">{t("composer.drawn-from.tag")}</span>
            <select
              className="field min-w-40"
              disabled={busy}
              value={bank.tag ?? ""}
              onChange={({ target }) =>
                void choose(given({ topic: bank.topic, tag: target.value || undefined }) as BankChoice)
              }
            >
              <option value="">{t("composer.drawn-from.any-tag")}</option>
              {tags.map((tag) => (
                <option key={tag} value={tag}>
                  {tag}
                </option>
              ))}
            </select>
          </label>
        )}
        {bank && lines !== null && (
          <span className="small pb-2">{t("composer.drawn-from.there-are", { count })}</span>
        )}
      </p>
    </div>
  );
}
