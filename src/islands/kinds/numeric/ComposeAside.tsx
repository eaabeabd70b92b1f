import type { NumbersDrawn } from "@/core/kinds/numeric/draws";
import type { Numeric } from "@/core/kinds/numeric/question";
import type { Variable } from "@/core/numbers/variables";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { AddButton, Choice, Mistake, PlainField, removeWords, textOf } from "../writing/fields";
import { stepNames } from "../writing/step-names";

const MOST = 50;
const NAMES = "hklmnuvwxyzabcdfgjpqrst".split("");

interface NumericAsideProps extends ComposeProps<Numeric> {
  /** What the numbers come to over the draws; null: not known, or a key cannot be worked out. */
  readonly numbers: NumbersDrawn | null;
}

/** The list of a variable, as it is written: with commas, or with semicolons where a comma is in a number. */
const listText = (list: readonly (number | string)[]): string => list.join("; ");
const listIn = (text: string): string[] =>
  text
    .split(/[;\n]/)
    .map((each) => each.trim())
    .filter((each) => each !== "");

/** The numbers that are drawn for each attempt, and what they come to. */
export function NumericAside(props: NumericAsideProps) {
  const { question, slot, mistakes, values, numbers, newName, onChange } = props;
  const variables = question.variables ?? [];
  const put = (next: readonly Variable[], words: string, typedIn?: string) => {
    const { variables: _, ...rest } = question;
    onChange(next.length === 0 ? rest : { ...rest, variables: next }, words, typedIn);
  };
  const set = (place: number, next: Variable, typedIn?: string) =>
    put(
      variables.map((each, i) => (i === place ? next : each)),
      stepNames.key(),
      typedIn && `piece-${slot} variable ${place} ${typedIn}`,
    );
  const taken = new Set([...variables.map(({ name }) => name), ...question.parts.map(({ id }) => id)]);
  const add = () =>
    put(
      [
        ...variables,
        { name: NAMES.find((name) => !taken.has(name)) ?? newName("v"), from: "1", to: "10", step: "1" },
      ],
      stepNames.added(),
    );
  return (
    <section aria-labelledby="numbers-of-question">
      <h2 id="numbers-of-question" className="label">
        {t("compose.numeric.numbers-in-this-question")}
      </h2>
      {variables.length === 0 && <p className="small mt-1">{t("compose.numeric.same-for-all")}</p>}
      <ul>
        {variables.map((variable, place) => {
          const name = t("compose.numeric.variable", { name: variable.name });
          const at = `variables[${place}]`;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: its name is what is written here
            <li key={place} className="grid gap-1.5 border-b border-line py-2">
              <div className="flex flex-wrap items-start gap-2">
                <PlainField
                  className="w-20"
                  label={t("compose.numeric.name-of", { nth: place + 1 })}
                  isQuiet
                  maxLength={20}
                  value={variable.name}
                  mistake={mistakes.get(`${at}.name`)}
                  onChange={(text) => set(place, { ...variable, name: text }, "name")}
                />
                <Choice
                  label={t("compose.numeric.drawn-from", { name })}
                  isQuiet
                  value={"list" in variable ? "list" : "range"}
                  options={[
                    { value: "range", words: t("compose.numeric.a-range") },
                    { value: "list", words: t("compose.numeric.a-list") },
                  ]}
                  onChange={(how) =>
                    set(
                      place,
                      how === "list"
                        ? { name: variable.name, list: ["1", "2", "3"] }
                        : { name: variable.name, from: "1", to: "10", step: "1" },
                    )
                  }
                />
              </div>
              {"list" in variable ? (
                <PlainField
                  label={t("compose.numeric.list-of", { name })}
                  isQuiet
                  maxLength={2_000}
                  value={listText(variable.list)}
                  mistake={mistakes.get(`${at}.list`) ?? mistakes.get(at)}
                  onChange={(text) => set(place, { ...variable, list: listTyped(text) }, "list")}
                />
              ) : (
                <div className="flex gap-2">
                  {(["from", "to", "step"] as const).map((what) => (
                    <PlainField
                      key={what}
                      className="w-full min-w-0"
                      label={
                        {
                          from: t("compose.numeric.from-of", { name }),
                          to: t("compose.numeric.to-of", { name }),
                          step: t("compose.numeric.step-of", { name }),
                        }[what]
                      }
                      isQuiet
                      inputMode="decimal"
                      maxLength={20}
                      placeholder={
                        {
                          from: t("compose.numeric.from"),
                          to: t("compose.numeric.to"),
                          step: t("compose.numeric.step"),
                        }[what]
                      }
                      value={textOf(variable[what])}
                      mistake={mistakes.get(`${at}.${what}`)}
                      onChange={(text) => set(place, { ...variable, [what]: text.trim() }, what)}
                    />
                  ))}
                </div>
              )}
              {!("list" in variable) && <Mistake words={mistakes.get(at)} />}
              <p className="small flex flex-wrap justify-between gap-2">
                <span>{t("compose.numeric.now-drawn", { value: values.get(variable.name) ?? "…" })}</span>
                <button
                  type="button"
                  className="min-h-6 underline"
                  onClick={() =>
                    put(
                      variables.filter((_, i) => i !== place),
                      stepNames.removed(),
                    )
                  }
                >
                  {removeWords(name)}
                </button>
              </p>
            </li>
          );
        })}
      </ul>
      <Mistake words={mistakes.get("variables")} />
      {numbers && variables.length > 0 && (
        <p className="small mt-2">
          {t("compose.numeric.different-papers", { count: numbers.papers })}{" "}
          {numbers.parts
            .map(({ id, least, most }) =>
              least === most
                ? t("compose.numeric.part-is", { id, least })
                : t("compose.numeric.part-from-to", { id, least, most }),
            )
            .join(t("joint.semicolons"))}
          {numbers.all ? "" : ` ${t("compose.numeric.in-a-sample")}`}
        </p>
      )}
      {variables.length < MOST && <AddButton words={t("compose.numeric.draw-a-number")} onAdd={add} />}
      {variables.length > 0 && <p className="small mt-2">{t("compose.numeric.write-it-in-braces")}</p>}
    </section>
  );
}

/** A list while it is typed: what ends with its separator has room for the next. */
const listTyped = (text: string): string[] => (/[;\n]\s*$/.test(text) ? [...listIn(text), ""] : listIn(text));
