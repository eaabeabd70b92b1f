import { type FormEvent, useState } from "react";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { numberOrText, PlainField } from "../kinds/writing/fields";

interface CheckLink {
  readonly id: string;
  readonly forWhom: string;
  readonly by: string;
  readonly endsAt: number;
}

interface TrialFormProps {
  readonly draftId: string;
  readonly links: readonly CheckLink[];
  readonly zone: string;
}

/** Tries a draft out on the real desk, with any allowance; and lets a colleague check it by a link. */
export function TrialForm({ draftId, links: held, zone }: TrialFormProps) {
  const [factor, setFactor] = useState("");
  const [minutes, setMinutes] = useState("");
  const [forWhom, setForWhom] = useState("");
  const [days, setDays] = useState("7");
  const [links, setLinks] = useState(held);
  const [address, setAddress] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [linkProblem, setLinkProblem] = useState<string | null>(null);
  const path = `/api/drafts/${draftId}`;
  const words = (error: unknown) =>
    refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached"));
  const begin = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setProblem(null);
    try {
      const given = (text: string) => (text.trim() === "" ? undefined : numberOrText(text));
      const { quizId } = await ask<{ quizId: string }>(`${path}/trial`, {
        body: {
          ...(given(factor) === undefined ? {} : { factor: given(factor) }),
          ...(given(minutes) === undefined ? {} : { extraMinutes: given(minutes) }),
        },
      });
      location.assign(`/quizzes/${quizId}`);
    } catch (error) {
      setProblem(words(error));
      setBusy(false);
    }
  };
  const make = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setLinkProblem(null);
    try {
      const made = await ask<{ path: string }>(`${path}/links`, {
        body: { forWhom, days: Number(days) },
      });
      setAddress(new URL(made.path, location.href).href);
      setForWhom("");
      setLinks(await ask<CheckLink[]>(`${path}/links`));
    } catch (error) {
      setLinkProblem(words(error));
    }
    setBusy(false);
  };
  const end = async (id: string) => {
    setBusy(true);
    setLinkProblem(null);
    try {
      setLinks(await ask<CheckLink[]>(`${path}/end-link`, { body: { id } }));
      setAddress(null);
    } catch (error) {
      setLinkProblem(words(error));
    }
    setBusy(false);
  };
  return (
    <div className="mt-6 grid gap-x-12 gap-y-10 lg:grid-cols-2" data-ready="true">
      <form className="sheet grid content-start gap-4 p-6" onSubmit={(event) => void begin(event)}>
        <h2 className="font-read text-xl font-medium">{t("composer.trial-form.as-a-student")}</h2>
        <p>{t("composer.trial-form.how-it-goes")}</p>
        <div className="flex flex-wrap gap-5">
          <PlainField
            className="w-40"
            label={t("composer.trial-form.time-factor")}
            inputMode="decimal"
            placeholder="1"
            maxLength={5}
            value={factor}
            onChange={setFactor}
          />
          <PlainField
            className="w-40"
            label={t("composer.trial-form.more-minutes")}
            inputMode="decimal"
            placeholder="0"
            maxLength={5}
            value={minutes}
            onChange={setMinutes}
          />
        </div>
        {problem && (
          <p role="alert" className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
            {problem}{" "}
            <a className="underline" href={`/drafts/${draftId}`}>
              {t("composer.assign-form.put-it-right")}
            </a>
          </p>
        )}
        <button type="submit" className="button button-main justify-self-start" disabled={busy}>
          {busy ? t("ui.confirm.one-moment") : t("composer.trial-form.take-it")}
        </button>
      </form>
      <section className="grid content-start gap-4">
        <h2 className="font-read text-xl font-medium">{t("composer.trial-form.a-colleague")}</h2>
        <p>{t("composer.trial-form.what-they-see")}</p>
        <form className="flex flex-wrap items-end gap-4" onSubmit={(event) => void make(event)}>
          <PlainField
            className="min-w-56 flex-1"
            label={t("composer.trial-form.for-whom")}
            maxLength={200}
            value={forWhom}
            onChange={setForWhom}
          />
          <PlainField
            className="w-24"
            label={t("composer.trial-form.days")}
            inputMode="numeric"
            maxLength={2}
            value={days}
            onChange={setDays}
          />
          <button type="submit" className="button" disabled={busy || forWhom.trim() === "" || days === ""}>
            {t("composer.trial-form.make-a-link")}
          </button>
        </form>
        {linkProblem && (
          <p role="alert" className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
            {linkProblem}
          </p>
        )}
        {address !== null && (
          <div role="status" className="border-l-[3px] border-moss bg-moss-2 px-3 py-2">
            <p>{t("composer.trial-form.give-it-on")}</p>
            <input
              readOnly
              className="field mt-1.5 font-mono text-sm"
              aria-label={t("composer.trial-form.the-address")}
              value={address}
              onFocus={({ target }) => target.select()}
            />
          </div>
        )}
        {links.length > 0 && (
          <ul className="border-t border-line">
            {links.map((link) => (
              <li
                key={link.id}
                className="flex flex-wrap items-center justify-between gap-3 border-b border-line py-2"
              >
                <span>
                  {link.forWhom}
                  <span className="small block">
                    {t("composer.trial-form.by-until", { by: link.by, until: dayAndTime(link.endsAt, zone) })}
                  </span>
                </span>
                <button type="button" className="button" disabled={busy} onClick={() => void end(link.id)}>
                  {t("composer.trial-form.end-link", { forWhom: link.forWhom })}
                </button>
              </li>
            ))}
          </ul>
        )}
      </section>
    </div>
  );
}
