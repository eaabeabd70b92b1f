import type { Option } from "@/core/kinds/picks/options";
import { t } from "@/words/t";
import { AddPicture, ContentWritten } from "../writing/ContentWritten";
import { AddButton, letterOf, Mistake, PlainField, Tick, textOf } from "../writing/fields";
import { ItemRows } from "../writing/ItemRows";
import { withPasted } from "../writing/pasted-rows";
import { stepNames } from "../writing/step-names";
import { WrittenText } from "../writing/WrittenText";

const MOST = 26;

type Credited = Option & { readonly credit?: number | string | undefined };

interface OptionsWrittenProps {
  readonly options: readonly Credited[];
  /** One is right, or several are. */
  readonly type: "radio" | "checkbox";
  /** Names of fields begin with it. */
  readonly field: string;
  readonly path: string;
  readonly language: string | undefined;
  readonly mistakes: ReadonlyMap<string, string>;
  readonly newName: (letter: string) => string;
  /** Whether a wrong option may have a share of the marks. */
  readonly hasCredit?: boolean;
  readonly onChange: (options: readonly Credited[], words: string, typedIn?: string) => void;
}

const withoutEmpty = (option: Credited): Credited =>
  Object.fromEntries(
    Object.entries(option).filter(
      ([name, value]) => name === "text" || (value !== undefined && value !== "" && value !== false),
    ),
  ) as unknown as Credited;

/** The options of a question as students will see them, the right ones marked, with what is said to who picks each. */
export function OptionsWritten(props: OptionsWrittenProps) {
  const { options, type, field, path, language, mistakes, newName, hasCredit = false, onChange } = props;
  const nameOf = (_: unknown, place: number) => t("compose.picks.option", { letter: letterOf(place) });
  const set = (id: string, next: Credited, words: string, typedIn?: string) =>
    onChange(
      options.map((each) => (each.id === id ? withoutEmpty(next) : each)),
      words,
      typedIn,
    );
  const mark = (id: string, isRight: boolean) =>
    onChange(
      options.map((each) => {
        const right = each.id === id ? isRight : type === "checkbox" && (each.right ?? false);
        const { right: _, ...rest } = each;
        return right ? { ...rest, right: true } : rest;
      }),
      stepNames.key(),
    );
  const add = () => onChange([...options, { id: newName("o"), text: "" }], stepNames.added());
  const paste = (place: number) => (rows: readonly (readonly string[])[]) => {
    onChange(
      withPasted<Credited>(options, place, rows, () => ({ id: newName("o") })).slice(0, MOST),
      stepNames.pasted(),
    );
    return true;
  };
  return (
    <>
      <ItemRows
        items={options}
        nameOf={nameOf}
        least={2}
        onMove={(items) => onChange(items, stepNames.moved())}
        onRemove={({ id }) =>
          onChange(
            options.filter((each) => each.id !== id),
            stepNames.removed(),
          )
        }
      >
        {(option, place) => {
          const name = nameOf(option, place);
          const at = `${path}[${place}]`;
          return (
            <div className={`rounded-sm px-1 ${option.right ? "bg-moss-2" : ""}`}>
              <div className="flex items-start gap-3">
                <label className="flex min-h-9 shrink-0 items-center gap-2">
                  <input
                    type={type}
                    name={`${field}-right`}
                    className={`size-[1.125rem] accent-moss ${type === "radio" ? "" : "rounded-none"}`}
                    checked={option.right ?? false}
                    aria-label={t("compose.picks.is-right", { name })}
                    onChange={({ target }) => mark(option.id, target.checked)}
                  />
                  <span className="w-4 text-sm text-ink-2" aria-hidden="true">
                    {letterOf(place)}
                  </span>
                </label>
                <div className="min-w-0 flex-1 pt-1">
                  <ContentWritten
                    content={option}
                    name={name}
                    placeholder={t("compose.picks.what-it-says")}
                    language={language}
                    mistake={mistakes.get(`${at}.text`) ?? mistakes.get(at)}
                    onChange={(next, isTyped) =>
                      set(
                        option.id,
                        next,
                        isTyped ? stepNames.typing() : stepNames.picture(),
                        isTyped ? `${field} ${option.id}` : undefined,
                      )
                    }
                    onRows={paste(place)}
                    onEnter={() =>
                      place === options.length - 1 && options.length < MOST ? add() : undefined
                    }
                  />
                  <div className="mt-0.5 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[0.875rem] text-ink-2">
                    <WrittenText
                      isLine
                      className="min-w-48 flex-1"
                      text={option.feedback ?? ""}
                      label={t("compose.picks.said-to-who-picks", { name })}
                      placeholder={t("compose.picks.say-to-who-picks-it")}
                      language={language}
                      mistake={mistakes.get(`${at}.feedback`)}
                      onChange={(feedback) =>
                        set(
                          option.id,
                          { ...option, feedback },
                          stepNames.typing(),
                          `${field} ${option.id} feedback`,
                        )
                      }
                    />
                    {hasCredit && !option.right && option.credit !== undefined && (
                      <PlainField
                        className="w-28"
                        label={t("compose.picks.share-of-marks", { name })}
                        isQuiet
                        inputMode="decimal"
                        maxLength={12}
                        value={textOf(option.credit)}
                        mistake={mistakes.get(`${at}.credit`)}
                        onChange={(credit) =>
                          set(
                            option.id,
                            { ...option, credit },
                            stepNames.scoring(),
                            `${field} ${option.id} credit`,
                          )
                        }
                      />
                    )}
                    <details className="group/more">
                      <summary className="small min-h-6 cursor-pointer">
                        {t("compose.picks.more")}
                        <span className="sr-only"> {name}</span>
                      </summary>
                      <div className="grid gap-1.5 py-1">
                        <AddPicture
                          content={option}
                          name={name}
                          onChange={(next) => set(option.id, next, stepNames.picture())}
                        />
                        <Tick
                          label={t("compose.picks.stays-last")}
                          checked={option.last ?? false}
                          onChange={(last) => set(option.id, { ...option, last }, stepNames.moved())}
                        />
                        {hasCredit && !option.right && (
                          <Tick
                            label={t("compose.picks.has-a-share")}
                            checked={option.credit !== undefined}
                            onChange={(has) =>
                              set(
                                option.id,
                                { ...option, credit: has ? "1/2" : undefined },
                                stepNames.scoring(),
                              )
                            }
                          />
                        )}
                      </div>
                    </details>
                  </div>
                </div>
              </div>
            </div>
          );
        }}
      </ItemRows>
      <Mistake words={mistakes.get(path)} />
      {options.length < MOST && <AddButton words={t("compose.picks.add-an-option")} onAdd={add} />}
    </>
  );
}
