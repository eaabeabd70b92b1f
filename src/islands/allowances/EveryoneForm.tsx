import { useMemo, useState } from "react";
import type { EveryonesTimes, TimesView } from "@/core/allowances/times-view";
import { t } from "@/words/t";
import { EffectPanel } from "./EffectPanel";
import { MomentField } from "./MomentField";
import { PeoplePicker } from "./PeoplePicker";
import { type EveryoneDraft, everyoneDraft, everyoneSent } from "./times-draft";

interface EveryoneFormProps {
  readonly quizId: string;
  readonly times: EveryonesTimes;
  readonly students: TimesView["students"];
  readonly sections: TimesView["sections"];
  readonly zone: string;
}

/** When a quiz opens, is due and closes, how long and how often it may be taken, and by whom. */
export function EveryoneForm({ quizId, times, students, sections, zone }: EveryoneFormProps) {
  const [draft, setDraft] = useState(() => everyoneDraft(times, zone));
  const set = (change: Partial<EveryoneDraft>) => setDraft({ ...draft, ...change });
  const sent = useMemo(() => everyoneSent(draft, times, zone), [draft, times, zone]);
  const isChanged = sent.body !== null || sent.mistake !== null;
  const labels = {
    opens: t("allowances.everyone-form.opens"),
    due: t("allowances.everyone-form.due"),
    closes: t("allowances.everyone-form.closes"),
  };
  return (
    <section className="border-t border-ink pt-4">
      <h2 className="font-read text-xl font-medium">{t("allowances.everyone-form.for-everyone")}</h2>
      <div className="mt-3 grid gap-x-12 gap-y-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid content-start gap-5">
          {(["opens", "due", "closes"] as const).map((what) => (
            <MomentField
              key={what}
              label={labels[what]}
              value={draft[what]}
              mayBeNone
              onChange={(value) => set({ [what]: value })}
            />
          ))}
          <p className="small -mt-2">
            {t("allowances.everyone-form.times-in", { zone: zone.replaceAll("_", " ") })}
          </p>
          <div className="flex flex-wrap gap-x-8 gap-y-4">
            <label className="grid gap-1">
              <span className="label">{t("allowances.everyone-form.time-limit")}</span>
              <input
                className="field w-28 text-right"
                inputMode="decimal"
                value={draft.timeLimit}
                placeholder={t("allowances.everyone-form.none")}
                maxLength={7}
                onChange={({ target }) => set({ timeLimit: target.value })}
              />
            </label>
            <label className="grid gap-1">
              <span className="label">{t("allowances.everyone-form.attempts")}</span>
              <input
                className="field w-28 text-right"
                inputMode="numeric"
                value={draft.attempts}
                placeholder={t("allowances.everyone-form.any-number")}
                maxLength={4}
                onChange={({ target }) => set({ attempts: target.value })}
              />
            </label>
          </div>
          <label className="flex items-center gap-2.5">
            <input
              type="checkbox"
              className="size-[18px] shrink-0"
              checked={draft.closingCutsClock}
              onChange={({ target }) => set({ closingCutsClock: target.checked })}
            />
            {t("allowances.everyone-form.closing-cuts")}
          </label>
          <fieldset className="grid gap-2">
            <legend className="label mb-1">{t("allowances.everyone-form.who-may-take-it")}</legend>
            <label className="flex items-center gap-2.5">
              <input
                type="radio"
                name="takers"
                className="size-[18px]"
                checked={draft.onlyFor === null}
                onChange={() => set({ onlyFor: null })}
              />
              {t("allowances.everyone-form.everyone-in-the-course")}
            </label>
            <label className="flex items-center gap-2.5">
              <input
                type="radio"
                name="takers"
                className="size-[18px]"
                checked={draft.onlyFor !== null}
                onChange={() => set({ onlyFor: new Set(times.onlyFor ?? []) })}
              />
              {t("allowances.everyone-form.only-some")}
            </label>
          </fieldset>
          {draft.onlyFor !== null && (
            <PeoplePicker
              students={students}
              sections={sections}
              chosen={draft.onlyFor}
              label={t("allowances.everyone-form.these-may")}
              onChange={(onlyFor) => set({ onlyFor })}
            />
          )}
        </div>
        {isChanged ? (
          <EffectPanel
            path={`/api/quizzes/${quizId}/times`}
            body={sent.body}
            mistake={sent.mistake}
            deed={t("allowances.everyone-form.set-the-times")}
            zone={zone}
            onBack={() => setDraft(everyoneDraft(times, zone))}
          />
        ) : (
          <p className="small">{t("allowances.everyone-form.what-it-does-is-shown-here")}</p>
        )}
      </div>
    </section>
  );
}
