import { given } from "@/core/given";
import type { Numeric, NumericPart, Tolerance, UsualMistake } from "@/core/kinds/numeric/question";
import { exact, shown, sum } from "@/core/numbers/exact";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import {
  AddButton,
  Choice,
  Mistake,
  numberOrText,
  PlainField,
  Tick,
  textOf,
  wholeOrNone,
} from "../writing/fields";
import { ItemRows } from "../writing/ItemRows";
import { stepNames } from "../writing/step-names";
import { WrittenText } from "../writing/WrittenText";

const MOST_PARTS = 20;
const MOST_MISTAKES = 20;

/** The marks of a question are the sum of those of its parts: one figure, written in one place. */
function withParts(question: Numeric, parts: readonly NumericPart[]): Numeric {
  try {
    const marks = numberOrText(shown(sum(parts.map((part) => exact(part.marks)))));
    return { ...question, parts, marks };
  } catch {
    return { ...question, parts };
  }
}

/** The next name of a part: a, b, c. */
const nextPart = (parts: readonly NumericPart[], newName: (letter: string) => string): string =>
  "abcdfghjklmnpqrstuvwxyz".split("").find((id) => !parts.some((part) => part.id === id)) ?? newName("p");

/** Parts as at the desk, each with its key, how near an answer has to be, its unit and its marks. */
export function NumericCompose(props: ComposeProps<Numeric>) {
  const { question, slot, language, mistakes, values, newName, onChange } = props;
  const { parts } = question;
  const isSingle = parts.length === 1;
  const put = (next: readonly NumericPart[], words: string, typedIn?: string) =>
    onChange(withParts(question, next), words, typedIn);
  const nameOf = ({ id }: NumericPart) => t("compose.numeric.part", { id });
  return (
    <>
      <ItemRows
        items={parts}
        nameOf={nameOf}
        least={1}
        onMove={(next) => put(next, stepNames.moved())}
        onRemove={({ id }) =>
          put(
            parts.filter((each) => each.id !== id),
            stepNames.removed(),
          )
        }
      >
        {(part, place) => (
          <PartWritten
            question={question}
            part={part}
            name={nameOf(part)}
            path={`parts[${place}]`}
            field={`piece-${slot} ${part.id}`}
            isSingle={isSingle}
            language={language}
            mistakes={mistakes}
            values={values}
            onChange={(next, words, typedIn) =>
              put(
                parts.map((each) => (each.id === part.id ? given(next) : each)),
                words,
                typedIn,
              )
            }
          />
        )}
      </ItemRows>
      <Mistake words={mistakes.get("parts") ?? mistakes.get("")} />
      {parts.length < MOST_PARTS && (
        <AddButton
          words={t("compose.numeric.add-a-part")}
          onAdd={() =>
            put(
              [
                ...parts,
                {
                  id: nextPart(parts, newName),
                  marks: 2,
                  key: "",
                  tolerance: parts.at(-1)?.tolerance ?? { rule: "figures", figures: 3 },
                },
              ],
              stepNames.added(),
            )
          }
        />
      )}
      <Choice
        className="mt-4"
        label={t("compose.numeric.what-a-comma-means")}
        value={
          question.commaIsThousands === undefined
            ? "ask"
            : question.commaIsThousands
              ? "thousands"
              : "decimals"
        }
        options={[
          { value: "ask", words: t("compose.numeric.comma-asked") },
          { value: "decimals", words: t("compose.numeric.comma-decimals") },
          { value: "thousands", words: t("compose.numeric.comma-thousands") },
        ]}
        onChange={(means) => {
          const { commaIsThousands: _, ...rest } = question;
          onChange(
            means === "ask" ? rest : { ...rest, commaIsThousands: means === "thousands" },
            stepNames.scoring(),
          );
        }}
      />
    </>
  );
}

/** The earlier parts that a key uses. */
function uses(question: Numeric, part: NumericPart): string[] {
  const before = question.parts.slice(0, question.parts.indexOf(part)).map(({ id }) => id);
  const names: readonly string[] = String(part.key).match(/[A-Za-z]\w*/g) ?? [];
  return before.filter((id) => names.includes(id));
}

interface PartWrittenProps {
  readonly question: Numeric;
  readonly part: NumericPart;
  readonly name: string;
  readonly path: string;
  readonly field: string;
  readonly isSingle: boolean;
  readonly language: string | undefined;
  readonly mistakes: ReadonlyMap<string, string>;
  readonly values: ReadonlyMap<string, string>;
  readonly onChange: (next: NumericPart, words: string, typedIn?: string) => void;
}

function PartWritten(props: PartWrittenProps) {
  const { question, part, name, path, field, isSingle, language, mistakes, values, onChange } = props;
  const at = (what: string) => mistakes.get(`${path}.${what}`);
  const type = (change: Partial<NumericPart>, what: string, words = stepNames.key()) =>
    onChange({ ...part, ...change }, words, `${field} ${what}`);
  const set = (change: Partial<NumericPart>) => onChange({ ...part, ...change }, stepNames.scoring());
  const value = values.get(part.id);
  const { tolerance } = part;
  const used = uses(question, part);
  return (
    <div className="grid gap-2">
      {(!isSingle || part.text) && (
        <div className="flex gap-3">
          <span className="w-4 shrink-0 pt-0.5 font-bold text-ink-2" aria-hidden="true">
            {part.id}
          </span>
          <WrittenText
            className="min-w-0 flex-1"
            text={part.text ?? ""}
            label={t("compose.numeric.what-is-asked", { name })}
            placeholder={t("compose.numeric.what-is-asked-here")}
            language={language}
            values={values}
            mistake={at("text")}
            onChange={(text) => type({ text: text === "" ? undefined : text }, "text", stepNames.typing())}
          />
        </div>
      )}
      <div className="flex flex-wrap items-start gap-x-3 gap-y-2">
        <div className="min-w-28 flex-1">
          <PlainField
            label={t("compose.numeric.key-of", { name })}
            shortLabel={t("compose.numeric.key")}
            placeholder={t("compose.numeric.number-or-formula")}
            maxLength={500}
            value={textOf(part.key)}
            mistake={at("key")}
            onChange={(text) => type({ key: numberOrText(text) }, "key")}
          />
          {value !== undefined && typeof part.key === "string" && value !== part.key && (
            <p className="small mt-0.5">{t("compose.numeric.is", { value })}</p>
          )}
        </div>
        <ToleranceWritten
          tolerance={tolerance}
          name={name}
          mistake={at("tolerance.within") ?? at("tolerance.figures") ?? at("tolerance")}
          onChange={(next, typedIn) =>
            onChange(
              { ...part, tolerance: next },
              stepNames.scoring(),
              typedIn ? `${field} within` : undefined,
            )
          }
        />
        <PlainField
          className="w-16"
          label={t("compose.numeric.unit-of", { name })}
          shortLabel={t("compose.numeric.unit")}
          maxLength={40}
          value={part.unit ?? ""}
          mistake={at("unit") ?? mistakes.get(path)}
          onChange={(unit) =>
            type(
              unit === "" ? { unit: undefined, unitRule: undefined, unitMissingLoses: undefined } : { unit },
              "unit",
            )
          }
        />
        <PlainField
          className="w-16"
          label={t("compose.numeric.marks-of", { name })}
          shortLabel={t("compose.numeric.marks")}
          inputMode="decimal"
          maxLength={12}
          value={textOf(part.marks)}
          mistake={at("marks")}
          onChange={(text) => type({ marks: numberOrText(text) }, "marks", stepNames.scoring())}
        />
      </div>
      {used.length > 0 && part.carriesForward !== false && (
        <p className="small">
          {t("compose.numeric.uses", { id: part.id, parts: used.join(t("joint.commas")) })}
        </p>
      )}
      <details>
        <summary className="small min-h-6 cursor-pointer">
          {t("compose.numeric.more")}
          <span className="sr-only"> {name}</span>
        </summary>
        <div className="grid gap-3 py-2">
          {part.unit !== undefined && (
            <Choice
              label={t("compose.numeric.unit-is", { name })}
              value={part.unitRule ?? "printed"}
              options={[
                { value: "printed", words: t("compose.numeric.printed") },
                { value: "needed", words: t("compose.numeric.needed") },
              ]}
              onChange={(unitRule) =>
                set(
                  unitRule === "needed" ? { unitRule } : { unitRule: undefined, unitMissingLoses: undefined },
                )
              }
            />
          )}
          {tolerance.rule === "figures" && (
            <PlainField
              className="max-w-96"
              label={t("compose.numeric.too-few-figures-lose")}
              placeholder={t("compose.numeric.all-of-it")}
              inputMode="decimal"
              maxLength={12}
              value={textOf(part.tooFewFiguresLoses)}
              mistake={at("tooFewFiguresLoses")}
              onChange={(text) => type({ tooFewFiguresLoses: text === "" ? undefined : text }, "few")}
            />
          )}
          {part.unitRule === "needed" && (
            <PlainField
              className="max-w-96"
              label={t("compose.numeric.missing-unit-loses")}
              placeholder={t("compose.numeric.all-of-it")}
              inputMode="decimal"
              maxLength={12}
              value={textOf(part.unitMissingLoses)}
              mistake={at("unitMissingLoses")}
              onChange={(text) => type({ unitMissingLoses: text === "" ? undefined : text }, "missing")}
            />
          )}
          <Tick
            label={t("compose.numeric.carries-forward")}
            hint={t("compose.numeric.carries-forward-hint")}
            checked={part.carriesForward ?? true}
            onChange={(carries) => set({ carriesForward: carries ? undefined : false })}
          />
          <UsualMistakes
            part={part}
            name={name}
            path={`${path}.mistakes`}
            field={field}
            language={language}
            mistakes={mistakes}
            onChange={(list, words, typedIn) =>
              onChange({ ...part, mistakes: list.length === 0 ? undefined : list }, words, typedIn)
            }
          />
        </div>
      </details>
    </div>
  );
}

interface ToleranceWrittenProps {
  readonly tolerance: Tolerance;
  readonly name: string;
  readonly mistake: string | undefined;
  readonly onChange: (tolerance: Tolerance, isTyped: boolean) => void;
}

/** How near to the key an answer has to be. */
function ToleranceWritten({ tolerance, name, mistake, onChange }: ToleranceWrittenProps) {
  const { rule } = tolerance;
  return (
    <div className="flex items-end gap-1 [&_select]:px-1.5">
      <PlainField
        className="w-16"
        shortLabel={t("compose.numeric.right-within-short")}
        label={
          rule === "figures"
            ? t("compose.numeric.figures-of", { name })
            : t("compose.numeric.within-of", { name })
        }
        inputMode="decimal"
        maxLength={20}
        value={textOf(rule === "figures" ? tolerance.figures : tolerance.within)}
        mistake={mistake}
        onChange={(text) => {
          if (rule === "figures") {
            const figures = wholeOrNone(text);
            // Without a number it is to be put right.
            onChange({ ...tolerance, figures } as Tolerance, true);
          } else onChange({ rule, within: numberOrText(text) }, true);
        }}
      />
      <Choice
        label={t("compose.numeric.right-within", { name })}
        isQuiet
        value={rule}
        options={[
          { value: "figures", words: t("compose.numeric.figures") },
          { value: "absolute", words: t("compose.numeric.absolute") },
          { value: "relative", words: t("compose.numeric.relative") },
        ]}
        onChange={(next) =>
          onChange(
            next === "figures"
              ? { rule: "figures", figures: 3 }
              : { rule: next, within: next === "relative" ? "0.01" : "0.1" },
            false,
          )
        }
      />
    </div>
  );
}

interface UsualMistakesProps {
  readonly part: NumericPart;
  readonly name: string;
  readonly path: string;
  readonly field: string;
  readonly language: string | undefined;
  readonly mistakes: ReadonlyMap<string, string>;
  readonly onChange: (list: readonly UsualMistake[], words: string, typedIn?: string) => void;
}

/** Wrong values that many write, each with what is said to who does. */
function UsualMistakes({ part, name, path, field, language, mistakes, onChange }: UsualMistakesProps) {
  const list = part.mistakes ?? [];
  const set = (place: number, next: UsualMistake, typedIn: string) =>
    onChange(
      list.map((each, i) => (i === place ? next : each)),
      stepNames.typing(),
      `${field} mistake ${place} ${typedIn}`,
    );
  return (
    <section>
      <h4 className="label">{t("compose.numeric.usual-mistakes")}</h4>
      <ul>
        {list.map((each, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a mistake has no name of its own
          <li key={place} className="flex flex-wrap items-start gap-3 border-b border-line py-1.5">
            <PlainField
              className="w-44"
              label={t("compose.numeric.wrong-value", { name, nth: place + 1 })}
              isQuiet
              placeholder={t("compose.numeric.number-or-formula")}
              value={textOf(each.value)}
              mistake={mistakes.get(`${path}[${place}].value`)}
              onChange={(text) => set(place, { ...each, value: numberOrText(text) }, "value")}
            />
            <WrittenText
              className="min-w-48 flex-1"
              text={each.feedback}
              label={t("compose.numeric.said-to-it", { name, nth: place + 1 })}
              placeholder={t("compose.accepted-written.say-to-who-writes-it")}
              language={language}
              mistake={mistakes.get(`${path}[${place}].feedback`)}
              onChange={(feedback) => set(place, { ...each, feedback }, "feedback")}
            />
            <PlainField
              className="w-24"
              label={t("compose.numeric.keeps", { name, nth: place + 1 })}
              isQuiet
              inputMode="decimal"
              placeholder={t("compose.numeric.keeps-none")}
              maxLength={12}
              value={textOf(each.credit)}
              mistake={mistakes.get(`${path}[${place}].credit`)}
              onChange={(credit) => {
                const { credit: _, ...rest } = each;
                set(place, credit === "" ? rest : { ...rest, credit }, "credit");
              }}
            />
            <button
              type="button"
              className="small min-h-9 underline"
              onClick={() =>
                onChange(
                  list.filter((_, i) => i !== place),
                  stepNames.removed(),
                )
              }
            >
              {t("compose.fields.remove", {
                what: t("compose.numeric.mistake", { nth: place + 1 }),
              })}
            </button>
          </li>
        ))}
      </ul>
      {list.length < MOST_MISTAKES && (
        <AddButton
          words={t("compose.numeric.add-a-mistake")}
          onAdd={() => onChange([...list, { value: "", feedback: "" }], stepNames.added())}
        />
      )}
    </section>
  );
}
