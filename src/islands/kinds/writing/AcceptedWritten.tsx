import type { AcceptedText } from "@/core/kinds/accepted-texts";
import type { TextRules } from "@/core/text/matching";
import { t } from "@/words/t";
import { AddButton, Mistake, PlainField, Tick, textOf } from "./fields";
import { ItemRows } from "./ItemRows";
import { rowsIn } from "./pasted-rows";
import { stepNames } from "./step-names";
import { WrittenText } from "./WrittenText";

interface AcceptedWrittenProps {
  readonly accepted: readonly AcceptedText[];
  readonly field: string;
  readonly path: string;
  readonly language: string | undefined;
  readonly mistakes: ReadonlyMap<string, string>;
  readonly onChange: (accepted: readonly AcceptedText[], words: string, typedIn?: string) => void;
}

const MOST = 200;

/** The texts that are taken as an answer, the first that fits first, each with its share of the marks. */
export function AcceptedWritten({
  accepted,
  field,
  path,
  language,
  mistakes,
  onChange,
}: AcceptedWrittenProps) {
  // An accepted text has no name of its own: its place is its name, as long as nothing is moved.
  const items = accepted.map((each, place) => ({ ...each, id: String(place) }));
  const bare = (list: readonly (AcceptedText & { readonly id: string })[]) =>
    list.map(({ id: _, ...each }) => each);
  const set = (place: number, next: AcceptedText, words: string, typedIn?: string) =>
    onChange(
      accepted.map((each, i) =>
        i === place
          ? (Object.fromEntries(
              Object.entries(next).filter(
                ([name, value]) => name === "text" || (value !== undefined && value !== ""),
              ),
            ) as unknown as AcceptedText)
          : each,
      ),
      words,
      typedIn,
    );
  const add = () => onChange([...accepted, { text: "" }], stepNames.added());
  const nameOf = (_: unknown, place: number) => t("compose.accepted-written.answer", { nth: place + 1 });
  return (
    <>
      <ItemRows
        items={items}
        nameOf={nameOf}
        least={1}
        onMove={(next) => onChange(bare(next), stepNames.moved())}
        onRemove={({ id }) =>
          onChange(
            accepted.filter((_, i) => String(i) !== id),
            stepNames.removed(),
          )
        }
      >
        {(item, place) => (
          <div className="flex flex-wrap items-start gap-x-4 gap-y-1">
            <div
              className="min-w-40 flex-1"
              onPaste={(event) => {
                const rows = rowsIn(event.clipboardData.getData("text/plain"));
                if (rows === null || rows.length < 2) return;
                event.preventDefault();
                const pasted = rows.map(([text = "", credit = ""]) => ({
                  text,
                  ...(credit === "" ? {} : { credit }),
                }));
                const rest = accepted.filter(({ text }, i) => i !== place && text !== "");
                onChange([...rest, ...pasted].slice(0, MOST), stepNames.pasted());
              }}
            >
              <PlainField
                label={nameOf(item, place)}
                isQuiet
                language={language}
                placeholder={t("compose.accepted-written.what-is-taken")}
                value={item.text}
                mistake={mistakes.get(`${path}[${place}].text`)}
                onChange={(text) =>
                  set(place, { ...accepted[place], text }, stepNames.typing(), `${field} accepted ${place}`)
                }
                onEnter={add}
              />
            </div>
            <PlainField
              className="w-24"
              label={t("compose.accepted-written.share", { nth: place + 1 })}
              isQuiet
              inputMode="decimal"
              placeholder={t("compose.accepted-written.all-marks")}
              maxLength={12}
              value={textOf(item.credit)}
              mistake={mistakes.get(`${path}[${place}].credit`)}
              onChange={(credit) =>
                set(
                  place,
                  { ...(accepted[place] ?? { text: "" }), credit: credit === "" ? undefined : credit },
                  stepNames.scoring(),
                  `${field} accepted ${place} credit`,
                )
              }
            />
            <WrittenText
              isLine
              className="basis-full text-[0.875rem] text-ink-2"
              text={item.feedback ?? ""}
              label={t("compose.accepted-written.said-to-who-writes", { nth: place + 1 })}
              placeholder={t("compose.accepted-written.say-to-who-writes-it")}
              language={language}
              mistake={mistakes.get(`${path}[${place}].feedback`)}
              onChange={(feedback) =>
                set(
                  place,
                  { ...(accepted[place] ?? { text: "" }), feedback },
                  stepNames.typing(),
                  `${field} accepted ${place} feedback`,
                )
              }
            />
          </div>
        )}
      </ItemRows>
      <Mistake words={mistakes.get(path)} />
      <p className="small mt-1">{t("compose.accepted-written.a-star-stands-for-anything")}</p>
      {accepted.length < MOST && (
        <AddButton words={t("compose.accepted-written.add-an-answer")} onAdd={add} />
      )}
    </>
  );
}

interface TextRulesWrittenProps {
  readonly rules: TextRules;
  readonly onChange: (rules: TextRules) => void;
}

const RULES = ["caseMatters", "ignoreAccents", "typingMistake", "hyphensMatter", "articlesMatter"] as const;

/** How a typed text is compared with what is taken. */
export function TextRulesWritten({ rules, onChange }: TextRulesWrittenProps) {
  const words = {
    caseMatters: t("compose.accepted-written.capitals-count"),
    ignoreAccents: t("compose.accepted-written.accents-do-not-count"),
    typingMistake: t("compose.accepted-written.one-slip-is-forgiven"),
    hyphensMatter: t("compose.accepted-written.hyphens-count"),
    articlesMatter: t("compose.accepted-written.articles-count"),
  };
  return (
    <fieldset className="grid gap-1.5 sm:grid-cols-2">
      <legend className="label mb-1">{t("compose.accepted-written.how-it-is-compared")}</legend>
      {RULES.map((rule) => (
        <Tick
          key={rule}
          label={words[rule]}
          checked={rules[rule] ?? false}
          onChange={(holds) => onChange({ [rule]: holds || undefined })}
        />
      ))}
    </fieldset>
  );
}
