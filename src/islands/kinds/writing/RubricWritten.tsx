import type { Rubric, RubricCriterion, RubricLevel } from "@/core/kinds/rubric";
import { t } from "@/words/t";
import { AddButton, Mistake, numberOrText, PlainField, removeWords, textOf } from "./fields";
import { ItemRows } from "./ItemRows";
import { stepNames } from "./step-names";
import { WrittenText } from "./WrittenText";

interface RubricWrittenProps {
  readonly rubric: Rubric | undefined;
  readonly field: string;
  readonly language: string | undefined;
  readonly mistakes: ReadonlyMap<string, string>;
  readonly newName: (letter: string) => string;
  /** Absent: the question has no rubric. */
  readonly onChange: (rubric: Rubric | undefined, words: string, typedIn?: string) => void;
}

const MOST_CRITERIA = 30;
const MOST_LEVELS = 20;

/** A rubric as the marker will have it: criteria, each with its levels and points. */
export function RubricWritten({ rubric, field, language, mistakes, newName, onChange }: RubricWrittenProps) {
  const level = (points: number): RubricLevel => ({ id: newName("l"), title: "", points });
  const criterion = (): RubricCriterion => ({
    id: newName("c"),
    title: "",
    levels: [level(0), level(1), level(2)],
  });
  if (!rubric)
    return (
      <AddButton
        words={t("compose.rubric-written.add-a-rubric")}
        onAdd={() => onChange({ criteria: [criterion()] }, stepNames.added())}
      />
    );
  const { criteria } = rubric;
  const put = (next: readonly RubricCriterion[], words: string, typedIn?: string) =>
    onChange(next.length === 0 ? undefined : { criteria: next }, words, typedIn);
  const nameOf = (_: unknown, place: number) => t("compose.rubric-written.criterion", { nth: place + 1 });
  return (
    <div>
      <ItemRows
        items={criteria}
        nameOf={nameOf}
        least={0}
        onMove={(next) => put(next, stepNames.moved())}
        onRemove={({ id }) =>
          put(
            criteria.filter((each) => each.id !== id),
            stepNames.removed(),
          )
        }
      >
        {(item, place) => {
          const name = nameOf(item, place);
          const at = `rubric.criteria[${place}]`;
          const set = (next: RubricCriterion, words: string, typedIn?: string) =>
            put(
              criteria.map((each) => (each.id === item.id ? next : each)),
              words,
              typedIn,
            );
          const setLevel = (next: RubricLevel, words: string, typedIn?: string) =>
            set(
              { ...item, levels: item.levels.map((each) => (each.id === next.id ? next : each)) },
              words,
              typedIn,
            );
          return (
            <div className="grid gap-2">
              <PlainField
                label={name}
                isQuiet
                language={language}
                placeholder={t("compose.rubric-written.what-is-looked-at")}
                maxLength={300}
                value={item.title}
                mistake={mistakes.get(`${at}.title`)}
                onChange={(title) => set({ ...item, title }, stepNames.typing(), `${field} ${item.id}`)}
              />
              <ul className="grid gap-2 sm:grid-cols-[repeat(auto-fill,minmax(11rem,1fr))]">
                {item.levels.map((each, nth) => {
                  const levelName = t("compose.rubric-written.level", { name, nth: nth + 1 });
                  return (
                    <li key={each.id} className="grid content-start gap-1 rounded-sm border border-line p-2">
                      <PlainField
                        label={t("compose.rubric-written.points-of", { level: levelName })}
                        isQuiet
                        inputMode="decimal"
                        placeholder={t("compose.rubric-written.points")}
                        maxLength={12}
                        value={textOf(each.points)}
                        mistake={mistakes.get(`${at}.levels[${nth}].points`)}
                        onChange={(text) =>
                          setLevel(
                            { ...each, points: numberOrText(text) },
                            stepNames.scoring(),
                            `${field} ${each.id} points`,
                          )
                        }
                      />
                      <PlainField
                        label={t("compose.rubric-written.title-of", { level: levelName })}
                        isQuiet
                        language={language}
                        placeholder={t("compose.rubric-written.title")}
                        maxLength={300}
                        value={each.title}
                        mistake={mistakes.get(`${at}.levels[${nth}].title`)}
                        onChange={(title) =>
                          setLevel({ ...each, title }, stepNames.typing(), `${field} ${each.id} title`)
                        }
                      />
                      <WrittenText
                        className="text-sm"
                        text={each.text ?? ""}
                        label={t("compose.rubric-written.described", { level: levelName })}
                        placeholder={t("compose.rubric-written.what-it-takes")}
                        language={language}
                        onChange={(text) => {
                          const { text: _, ...rest } = each;
                          setLevel(
                            text === "" ? rest : { ...rest, text },
                            stepNames.typing(),
                            `${field} ${each.id} text`,
                          );
                        }}
                      />
                      {item.levels.length > 1 && (
                        <button
                          type="button"
                          className="small min-h-6 justify-self-start underline"
                          onClick={() =>
                            set(
                              { ...item, levels: item.levels.filter(({ id }) => id !== each.id) },
                              stepNames.removed(),
                            )
                          }
                        >
                          {removeWords(levelName)}
                        </button>
                      )}
                    </li>
                  );
                })}
              </ul>
              {item.levels.length < MOST_LEVELS && (
                <AddButton
                  words={t("compose.rubric-written.add-a-level")}
                  onAdd={() =>
                    set({ ...item, levels: [...item.levels, level(item.levels.length)] }, stepNames.added())
                  }
                />
              )}
            </div>
          );
        }}
      </ItemRows>
      <Mistake words={mistakes.get("rubric") ?? mistakes.get("rubric.criteria")} />
      {criteria.length < MOST_CRITERIA && (
        <AddButton
          words={t("compose.rubric-written.add-a-criterion")}
          onAdd={() => put([...criteria, criterion()], stepNames.added())}
        />
      )}
    </div>
  );
}
