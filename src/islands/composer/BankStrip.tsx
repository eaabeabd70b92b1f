import { type FormEvent, useState } from "react";
import type { BankQuestion } from "@/core/draft/bank";
import type { StandingPiece } from "@/core/draft/draft-view";
import type { BankLink } from "@/core/draft/pieces";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { BankPlaceFields, tagsIn } from "./BankPlaceFields";
import type { ComposerStore } from "./composer-store";
import type { DraftDeeds } from "./draft-deeds";
import { topicsOf, useBankLines } from "./use-bank-lines";

interface BankStripProps {
  readonly store: ComposerStore;
  readonly deeds: DraftDeeds;
  readonly slot: number;
  readonly bank: BankLink | undefined;
  /** Its section draws from a topic of the bank. */
  readonly isDrawn: boolean;
}

/** How a question hangs together with the bank, and what can be done about it. */
export function BankStrip({ store, deeds, slot, bank, isDrawn }: BankStripProps) {
  const [isPutting, setPutting] = useState(false);
  const [busy, setBusy] = useState(false);
  const followAgain = async (id: string) => {
    setBusy(true);
    try {
      const [found] = await ask<BankQuestion[]>(`${store.path}/bank`, { body: { ids: [id] } });
      if (found) deeds.followAgain(slot, found);
      else store.fail(new Error(t("composer.bank-strip.is-not-there")));
    } catch (error) {
      store.fail(error);
    }
    setBusy(false);
  };
  return (
    <div className="mt-2 text-sm text-ink-2">
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        {bank?.follows
          ? t("composer.bank-strip.follows", { version: bank.version })
          : bank
            ? t("composer.bank-strip.is-own", { version: bank.version })
            : null}
        {isDrawn && bank?.follows ? ` ${t("composer.bank-strip.is-drawn")}` : null}
        {bank && !bank.follows && (
          <button
            type="button"
            className="min-h-6 underline"
            disabled={busy}
            onClick={() => void followAgain(bank.id)}
          >
            {t("composer.bank-strip.follow-again")}
          </button>
        )}
        {!bank?.follows && (
          <button
            type="button"
            className="min-h-6 underline"
            aria-expanded={isPutting}
            onClick={() => setPutting(!isPutting)}
          >
            {bank ? t("composer.bank-strip.put-back") : t("composer.bank-strip.put-in")}
          </button>
        )}
      </p>
      {isPutting && (
        <PutIn store={store} slot={slot} bankId={bank?.id ?? null} onDone={() => setPutting(false)} />
      )}
    </div>
  );
}

interface PutInProps {
  readonly store: ComposerStore;
  readonly slot: number;
  /** The question of the bank of which it becomes the next version; null: a new one. */
  readonly bankId: string | null;
  readonly onDone: () => void;
}

function PutIn({ store, slot, bankId, onDone }: PutInProps) {
  const { lines } = useBankLines(store);
  const known = lines?.find(({ id }) => id === bankId);
  const [topic, setTopic] = useState<string | null>(null);
  const [tags, setTags] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  // What the bank has, until something is typed.
  const placed = { topic: topic ?? known?.topic ?? "", tags: tags ?? known?.tags.join(", ") ?? "" };
  const put = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setProblem(null);
    try {
      if (!(await store.saveNow())) throw new Error("not saved");
      const body = { slot, topic: placed.topic, tags: tagsIn(placed.tags) };
      store.adopt(await ask<StandingPiece[]>(`${store.path}/into-bank`, { body }));
      store.tell(t("composer.bank-strip.is-in-the-bank"));
      onDone();
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
    }
    setBusy(false);
  };
  return (
    <form className="mt-2 flex flex-wrap items-end gap-4" onSubmit={(event) => void put(event)}>
      <BankPlaceFields
        topic={placed.topic}
        tags={placed.tags}
        topics={topicsOf(lines)}
        onTopic={setTopic}
        onTags={setTags}
      />
      <button type="submit" className="button" disabled={busy}>
        {busy ? t("ui.confirm.one-moment") : t("composer.bank-strip.put")}
      </button>
      {problem && (
        <p role="alert" className="basis-full text-plum">
          {problem}
        </p>
      )}
    </form>
  );
}
