import { type FormEvent, useState } from "react";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { BankPlaceFields, tagsIn } from "./BankPlaceFields";

interface BankPlacedProps {
  readonly slug: string;
  readonly id: string;
  readonly topic: string;
  readonly tags: readonly string[];
  /** Its first words, for who hears the buttons by themselves. */
  readonly words: string;
  readonly topics: readonly string[];
}

/** Which topic and tags a question of the bank has, and whether it stays in it. */
export function BankPlaced({ slug, id, words, topics, ...placed }: BankPlacedProps) {
  const [topic, setTopic] = useState(placed.topic);
  const [tags, setTags] = useState(placed.tags.join(", "));
  const [busy, setBusy] = useState(false);
  const [isSure, setSure] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const send = async (path: string, body: object) => {
    setBusy(true);
    setProblem(null);
    try {
      await ask(`/api/courses/${slug}/bank/${path}`, { body });
      location.reload();
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
      setBusy(false);
    }
  };
  const place = (event: FormEvent) => {
    event.preventDefault();
    void send("place", { id, topic, tags: tagsIn(tags) });
  };
  return (
    <Listening>
      <form className="mt-3 flex flex-wrap items-end gap-4" onSubmit={place}>
        <BankPlaceFields topic={topic} tags={tags} topics={topics} onTopic={setTopic} onTags={setTags} />
        <button type="submit" className="button" disabled={busy}>
          {t("composer.bank-placed.keep")}
          <span className="sr-only">: {words}</span>
        </button>
        {isSure ? (
          <span className="flex flex-wrap items-center gap-3 text-sm">
            {t("composer.bank-placed.what-it-does")}
            <button
              type="button"
              className="button"
              disabled={busy}
              onClick={() => void send("put-away", { id })}
            >
              {t("composer.bank-placed.put-away-now")}
            </button>
            <button type="button" className="min-h-6 underline" onClick={() => setSure(false)}>
              {t("composer.bank-placed.leave-it")}
            </button>
          </span>
        ) : (
          <button type="button" className="min-h-6 text-sm underline" onClick={() => setSure(true)}>
            {t("composer.bank-placed.put-away")}
            <span className="sr-only">: {words}</span>
          </button>
        )}
        {problem && (
          <p role="alert" className="basis-full text-plum">
            {problem}
          </p>
        )}
      </form>
    </Listening>
  );
}
