import { useMemo, useState } from "react";
import { NO_TERMS } from "@/core/allowances/allowance-terms";
import type { AllowanceLine, TimesView } from "@/core/allowances/times-view";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { EffectPanel } from "./EffectPanel";
import { MomentField } from "./MomentField";
import { PeoplePicker } from "./PeoplePicker";
import { type AllowanceDraft, allowanceDraft, allowanceSent } from "./times-draft";

interface AllowanceFormProps {
  readonly view: TimesView;
  /** The allowance that is changed; null: a new one. */
  readonly line: AllowanceLine | null;
  readonly path: string;
  readonly zone: string;
  readonly onBack: () => void;
}

const toOf = (line: AllowanceLine | null): Pick<AllowanceDraft, "sectionId" | "people"> =>
  line === null
    ? { sectionId: null, people: new Set() }
    : "sectionId" in line.to
      ? { sectionId: line.to.sectionId, people: new Set() }
      : { sectionId: null, people: new Set([line.to.personId]) };

/** Gives more time, more attempts or a window of their own to students or to a section. */
export function AllowanceForm({ view, line, path, zone, onBack }: AllowanceFormProps) {
  const { everyone, students, sections } = view;
  const was = line?.terms ?? NO_TERMS;
  const [draft, setDraft] = useState(() => allowanceDraft(was, toOf(line), zone));
  const set = (change: Partial<AllowanceDraft>) => setDraft({ ...draft, ...change });
  const sent = useMemo(() => allowanceSent(draft, was, zone), [draft, was, zone]);
  const figures = [
    { name: "factor", label: t("allowances.allowance-form.times-the-time"), example: "1.5" },
    { name: "extraMinutes", label: t("allowances.allowance-form.more-minutes"), example: "10" },
    { name: "extraAttempts", label: t("allowances.allowance-form.more-attempts"), example: "1" },
  ] as const;
  const labels = {
    opens: t("allowances.everyone-form.opens"),
    due: t("allowances.everyone-form.due"),
    closes: t("allowances.everyone-form.closes"),
  };
  const everyones = (at: number | null | undefined) =>
    at === null || at === undefined ? t("allowances.moment-field.none") : dayAndTime(at, zone);
  return (
    <div className="mt-4 grid gap-x-12 gap-y-6 border-t border-line pt-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="grid content-start gap-5">
        {line !== null ? (
          <p className="text-lg font-bold">{line.to.name}</p>
        ) : (
          <>
            {sections.length > 0 && (
              <label className="grid gap-1">
                <span className="label">{t("allowances.allowance-form.to-whom")}</span>
                <select
                  className="field max-w-sm"
                  value={draft.sectionId ?? ""}
                  onChange={({ target }) => set({ sectionId: target.value === "" ? null : target.value })}
                >
                  <option value="">{t("allowances.allowance-form.some-students")}</option>
                  {sections.map(({ id, name, members }) => (
                    <option key={id} value={id}>
                      {t("allowances.allowance-form.section", { name, count: members.length })}
                    </option>
                  ))}
                </select>
              </label>
            )}
            {draft.sectionId === null && (
              <PeoplePicker
                students={students}
                sections={[]}
                chosen={draft.people}
                label={t("allowances.allowance-form.students")}
                onChange={(people) => set({ people })}
              />
            )}
          </>
        )}
        <div className="flex flex-wrap gap-x-8 gap-y-4">
          {figures.map(({ name, label, example }) => (
            <label key={name} className="grid gap-1">
              <span className="label">{label}</span>
              <input
                className="field w-28 text-right"
                inputMode="decimal"
                value={draft[name]}
                placeholder={t("allowances.allowance-form.such-as", { example })}
                maxLength={7}
                onChange={({ target }) => set({ [name]: target.value })}
              />
            </label>
          ))}
        </div>
        {everyone === null ? (
          <>
            <label className="grid gap-1">
              <span className="label">{t("allowances.allowance-form.days-later")}</span>
              <input
                className="field w-28 text-right"
                inputMode="numeric"
                value={draft.daysLater}
                placeholder={t("allowances.allowance-form.such-as", { example: "7" })}
                maxLength={3}
                onChange={({ target }) => set({ daysLater: target.value })}
              />
            </label>
            <label className="flex items-center gap-2.5">
              <input
                type="checkbox"
                className="size-[18px] shrink-0"
                checked={draft.closes.kind === "none"}
                onChange={({ target }) => set({ closes: { kind: target.checked ? "none" : "as-everyone" } })}
              />
              {t("allowances.allowance-form.nothing-closes")}
            </label>
          </>
        ) : (
          (["opens", "due", "closes"] as const).map((what) => (
            <MomentField
              key={what}
              label={labels[what]}
              value={draft[what]}
              everyones={everyones(everyone[what])}
              mayBeNone={what !== "opens"}
              onChange={(value) => set({ [what]: value })}
            />
          ))
        )}
        <p className="small max-w-prose">{t("allowances.allowance-form.which-holds")}</p>
      </div>
      <EffectPanel
        path={`${path}/give`}
        body={sent.body}
        mistake={sent.mistake}
        deed={
          line === null ? t("allowances.allowance-form.give-it") : t("allowances.allowance-form.change-it")
        }
        zone={zone}
        onBack={onBack}
      />
    </div>
  );
}
