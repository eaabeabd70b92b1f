import { RULES } from "@/core/draft/pieces";
import { given } from "@/core/given";
import { contradictionsOf } from "@/core/quiz/contradictions";
import { type QuizRules, REVEALED, type Revealed, type RevealWhen } from "@/core/quiz/rules";
import { instantOfLocal, localText } from "@/core/time/local-time";
import { say, t } from "@/words/t";
import {
  Choice,
  Further,
  LaterField,
  numberOrText,
  PlainField,
  Tick,
  textOf,
  wholeOrNone,
} from "../kinds/writing/fields";
import type { ComposerStore } from "./composer-store";

interface RulesWrittenProps {
  readonly store: ComposerStore;
  readonly rules: QuizRules;
  readonly zone: string;
  readonly mistakes: ReadonlyMap<string, string>;
}

const MOMENTS = ["at-hand-in", "after-due", "after-closing", "when-returned", "never"] as const;
/** As at the desk, where nothing else is set. */
const minutes = (list: readonly number[] | undefined): string => list?.join("; ") ?? "";
const minutesIn = (text: string): number[] =>
  text
    .split(";")
    .map((each) => Number(each.trim().replace(",", ".")))
    .filter((each) => Number.isFinite(each) && each > 0)
    .slice(0, 10);

/** How a quiz is taken, marked and shown: what students read of it is made from here. */
export function RulesWritten({ store, rules, zone, mistakes }: RulesWrittenProps) {
  const set = (change: Partial<QuizRules>, typedIn?: string) => {
    const next = given({ ...rules, ...change });
    store.change(
      new Map([[RULES, { piece: "rules", rules: next }]]),
      t("composer.rules-written.a-rule"),
      typedIn === undefined ? null : `rules ${typedIn}`,
    );
  };
  const number = (text: string): number | undefined => {
    const value = numberOrText(text);
    return typeof value === "number" ? value : undefined;
  };
  const flag = (name: keyof QuizRules, otherwise: boolean) => ({
    checked: (rules[name] as boolean | undefined) ?? otherwise,
    onChange: (holds: boolean) =>
      set({ [name]: holds === otherwise ? undefined : holds } as Partial<QuizRules>),
  });
  const contradictions = contradictionsOf(rules);
  const what: { readonly [R in Revealed]: string } = {
    total: t("composer.rules-written.total"),
    marks: t("composer.rules-written.marks"),
    written: t("composer.rules-written.written"),
    right: t("composer.rules-written.right"),
    worked: t("composer.rules-written.worked"),
  };
  const whens = [
    { value: "at-hand-in", words: t("composer.rules-written.at-hand-in") },
    { value: "after-due", words: t("composer.rules-written.after-due") },
    { value: "after-closing", words: t("composer.rules-written.after-closing") },
    { value: "when-returned", words: t("composer.rules-written.when-returned") },
    { value: "on", words: t("composer.rules-written.on-a-date") },
    { value: "never", words: t("composer.rules-written.never") },
  ] as const;
  const setReveal = (item: Revealed, when: RevealWhen) => set({ reveal: { ...rules.reveal, [item]: when } });
  const setTries = (change: Partial<NonNullable<QuizRules["tries"]>> | null, typedIn?: string) =>
    set(
      { tries: change === null ? undefined : { most: 3, cost: "1/3", ...rules.tries, ...change } },
      typedIn,
    );
  const help = (name: "mail" | "phone" | "page", text: string) => {
    const next = given({ ...rules.help, [name]: text.trim() === "" ? undefined : text.trim() });
    set({ help: Object.keys(next).length === 0 ? undefined : next }, `help ${name}`);
  };
  return (
    <section aria-labelledby="rules-written" className="grid max-w-[43.75rem] gap-7">
      <h2 id="rules-written" className="label">
        {t("composer.rules-written.the-rules")}
      </h2>
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <LaterField
          className="w-40"
          label={t("composer.rules-written.time-limit")}
          inputMode="decimal"
          placeholder={t("allowances.everyone-form.none")}
          maxLength={7}
          value={textOf(rules.timeLimit)}
          mistake={mistakes.get("timeLimit")}
          onChange={(text) =>
            set({ timeLimit: text.trim() === "" ? undefined : (number(text) ?? rules.timeLimit) })
          }
        />
        <PlainField
          className="w-32"
          label={t("allowances.everyone-form.attempts")}
          inputMode="numeric"
          placeholder={t("allowances.everyone-form.any-number")}
          maxLength={4}
          value={textOf(rules.attempts)}
          mistake={mistakes.get("attempts")}
          onChange={(text) => set({ attempts: wholeOrNone(text) }, "attempts")}
        />
        {rules.attempts !== 1 && (
          <>
            <Choice
              label={t("composer.rules-written.which-counts")}
              value={rules.counts}
              options={[
                { value: "best", words: t("composer.rules-written.best") },
                { value: "latest", words: t("composer.rules-written.latest") },
                { value: "first", words: t("composer.rules-written.first") },
                { value: "mean", words: t("composer.rules-written.mean") },
              ]}
              onChange={(counts) => set({ counts })}
            />
            <PlainField
              className="w-44"
              label={t("composer.rules-written.wait-between")}
              inputMode="numeric"
              placeholder="0"
              maxLength={6}
              value={textOf(rules.waitBetween)}
              onChange={(text) => set({ waitBetween: wholeOrNone(text) }, "waitBetween")}
            />
          </>
        )}
      </div>
      <div className="grid gap-2">
        <Choice
          label={t("composer.rules-written.order")}
          value={rules.order}
          options={[
            { value: "free", words: t("composer.rules-written.free") },
            { value: "one-way", words: t("composer.rules-written.one-way") },
          ]}
          onChange={(order) => set({ order })}
        />
        <Choice
          label={t("composer.rules-written.paging")}
          value={rules.paging ?? "question"}
          options={[
            { value: "question", words: t("composer.rules-written.a-question") },
            { value: "section", words: t("composer.rules-written.a-section") },
            { value: "all", words: t("composer.rules-written.all-on-one") },
          ]}
          onChange={(paging) => set({ paging: paging === "question" ? undefined : paging })}
        />
        <Tick label={t("composer.rules-written.shuffle")} {...flag("shuffleQuestions", false)} />
        <Tick label={t("composer.rules-written.ribbon")} {...flag("ribbon", true)} />
        <Tick label={t("composer.rules-written.answer-first")} {...flag("answerBeforeMovingOn", false)} />
      </div>
      <div className="grid gap-2">
        <span className="label">{t("composer.rules-written.while-it-runs")}</span>
        <Tick label={t("composer.rules-written.tell-at-once")} {...flag("tellAtOnce", false)} />
        {rules.tellAtOnce && (
          <Tick label={t("composer.rules-written.tell-the-right-one")} {...flag("tellRightAnswer", false)} />
        )}
        <Tick
          label={t("composer.rules-written.may-be-checked")}
          checked={rules.tries !== undefined}
          onChange={(holds) => setTries(holds ? {} : null)}
        />
        {rules.tries && (
          <div className="flex flex-wrap gap-4 pl-7">
            <LaterField
              className="w-36"
              label={t("composer.rules-written.most-tries")}
              inputMode="numeric"
              maxLength={3}
              value={textOf(rules.tries.most)}
              mistake={mistakes.get("tries.most")}
              onChange={(text) => setTries({ most: wholeOrNone(text) ?? 1 })}
            />
            <PlainField
              className="w-56"
              label={t("composer.rules-written.a-wrong-try-costs")}
              inputMode="decimal"
              maxLength={12}
              value={textOf(rules.tries.cost)}
              mistake={mistakes.get("tries.cost")}
              onChange={(text) => setTries({ cost: text.trim() }, "cost")}
            />
          </div>
        )}
        <Choice
          label={t("composer.rules-written.calculator")}
          value={rules.calculator ?? "none"}
          options={[
            { value: "none", words: t("composer.rules-written.no-calculator") },
            { value: "plain", words: t("composer.rules-written.plain") },
            { value: "scientific", words: t("composer.rules-written.scientific") },
          ]}
          onChange={(calculator) => set({ calculator })}
        />
        <Tick label={t("composer.rules-written.read-aloud")} {...flag("readAloud", true)} />
        <PlainField
          label={t("composer.rules-written.what-may-be-used")}
          placeholder={t("composer.rules-written.what-may-be-used-hint")}
          maxLength={500}
          value={rules.material ?? ""}
          onChange={(text) => set({ material: text === "" ? undefined : text }, "material")}
        />
      </div>
      <fieldset className="grid gap-2">
        <legend className="label mb-1">{t("composer.rules-written.what-is-shown-when")}</legend>
        {REVEALED.map((item) => {
          const when = rules.reveal[item];
          const value = typeof when === "string" ? when : "on";
          return (
            <div key={item} className="flex flex-wrap items-center gap-3">
              <span className="w-44">{what[item]}</span>
              <Choice
                label={what[item]}
                isQuiet
                value={value}
                options={whens}
                onChange={(next) =>
                  setReveal(
                    item,
                    next === "on"
                      ? { on: new Date(store.view.serverNow + 7 * 86_400_000).toISOString() }
                      : (next as (typeof MOMENTS)[number]),
                  )
                }
              />
              {typeof when !== "string" && (
                <input
                  type="datetime-local"
                  className="field w-auto"
                  aria-label={t("composer.rules-written.date-of", { what: what[item] })}
                  value={localText(Date.parse(when.on), zone)}
                  max="9999-12-31T23:59"
                  onChange={({ target }) => {
                    const instant = instantOfLocal(target.value, zone);
                    if (instant !== null) setReveal(item, { on: new Date(instant).toISOString() });
                  }}
                />
              )}
            </div>
          );
        })}
        {rules.attempts !== 1 && (
          <>
            <Tick
              label={t("composer.rules-written.only-after-the-last")}
              checked={rules.reveal.onlyAfterLastAttempt ?? false}
              onChange={(holds) => set({ reveal: withFlag(rules.reveal, "onlyAfterLastAttempt", holds) })}
            />
            <Tick
              label={t("composer.rules-written.later-ones-know")}
              checked={rules.reveal.laterAttemptsKnow ?? false}
              onChange={(holds) => set({ reveal: withFlag(rules.reveal, "laterAttemptsKnow", holds) })}
            />
          </>
        )}
        {contradictions.map((words) => (
          <p
            key={JSON.stringify(words)}
            className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum"
            data-mistake
          >
            {say(words)}
          </p>
        ))}
      </fieldset>
      <div className="grid gap-2">
        <span className="label">{t("composer.rules-written.handing-in")}</span>
        <Tick label={t("composer.rules-written.closing-cuts")} {...flag("closingCutsClock", true)} />
        <Tick label={t("composer.rules-written.take-back")} {...flag("takeBack", false)} />
        <PlainField
          className="w-64"
          label={t("composer.rules-written.late-costs")}
          inputMode="decimal"
          placeholder="0"
          maxLength={8}
          value={textOf(rules.lateCostPerDay)}
          mistake={mistakes.get("lateCostPerDay")}
          onChange={(text) => set({ lateCostPerDay: text.trim() === "" ? undefined : text.trim() }, "late")}
        />
        <Tick label={t("composer.rules-written.practice")} {...flag("practice", false)} />
        <Tick label={t("composer.rules-written.practise-missed")} {...flag("practiseMissed", false)} />
        <Tick label={t("composer.rules-written.alike")} {...flag("alike", false)} />
      </div>
      <Further
        title={t("composer.rules-written.warnings-and-help")}
        isOpen={rules.help !== undefined || rules.timeWarnings !== undefined}
      >
        <LaterField
          className="max-w-96"
          label={t("composer.rules-written.warnings-at")}
          placeholder={t("composer.rules-written.the-usual-ones")}
          maxLength={80}
          value={minutes(rules.timeWarnings)}
          onChange={(text) => set({ timeWarnings: text.trim() === "" ? undefined : minutesIn(text) })}
        />
        <PlainField
          className="max-w-96"
          label={t("composer.rules-written.help-mail")}
          maxLength={200}
          value={rules.help?.mail ?? ""}
          mistake={mistakes.get("help.mail")}
          onChange={(text) => help("mail", text)}
        />
        <PlainField
          className="max-w-96"
          label={t("composer.rules-written.help-phone")}
          maxLength={40}
          value={rules.help?.phone ?? ""}
          mistake={mistakes.get("help.phone")}
          onChange={(text) => help("phone", text)}
        />
        <PlainField
          className="max-w-96"
          label={t("composer.rules-written.help-page")}
          maxLength={300}
          value={rules.help?.page ?? ""}
          mistake={mistakes.get("help.page")}
          onChange={(text) => help("page", text)}
        />
      </Further>
      <p className="small">{t("composer.rules-written.window-when-assigned")}</p>
    </section>
  );
}

const withFlag = (
  reveal: QuizRules["reveal"],
  name: "onlyAfterLastAttempt" | "laterAttemptsKnow",
  holds: boolean,
): QuizRules["reveal"] => {
  const { [name]: _, ...rest } = reveal;
  return holds ? { ...rest, [name]: true } : rest;
};
