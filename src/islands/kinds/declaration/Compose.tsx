import type { Declaration } from "@/core/kinds/declaration/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { AddPicture, ContentWritten } from "../writing/ContentWritten";
import { AddButton, Choice, letterOf, Mistake } from "../writing/fields";
import { ItemRows } from "../writing/ItemRows";
import { stepNames } from "../writing/step-names";

const MOST = 26;
type Statement = Declaration["options"][number];

/** What can be declared: one statement to confirm, or a choice of several; neither is right or wrong. */
export function DeclarationCompose(props: ComposeProps<Declaration>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  const { options } = question;
  const put = (next: Declaration["options"], words: string, typedIn?: string) =>
    onChange({ ...question, options: next }, words, typedIn);
  const nameOf = (_: unknown, place: number) =>
    t("compose.declaration.statement", { letter: letterOf(place) });
  return (
    <>
      <ItemRows
        items={options}
        nameOf={nameOf}
        least={1}
        onMove={(next) => put(next, stepNames.moved())}
        onRemove={({ id }) =>
          put(
            options.filter((each) => each.id !== id),
            stepNames.removed(),
          )
        }
      >
        {(option, place) => {
          const set = (next: Statement, words: string, typedIn?: string) =>
            put(
              options.map((each) => (each.id === option.id ? next : each)),
              words,
              typedIn,
            );
          return (
            <div className="grid gap-1 pt-1">
              <ContentWritten
                content={option}
                name={nameOf(option, place)}
                placeholder={t("compose.declaration.what-is-declared")}
                language={language}
                mistake={mistakes.get(`options[${place}].text`)}
                onChange={(next, isTyped) =>
                  set(
                    next,
                    isTyped ? stepNames.typing() : stepNames.picture(),
                    isTyped ? `piece-${slot} ${option.id}` : undefined,
                  )
                }
              />
              <div className="flex flex-wrap items-center gap-4">
                <Choice
                  label={t("compose.declaration.stands-in", { name: nameOf(option, place) })}
                  isQuiet
                  value={option.standsIn === undefined ? "" : option.standsIn ? "yes" : "no"}
                  options={[
                    { value: "", words: t("compose.declaration.says-nothing") },
                    { value: "yes", words: t("compose.declaration.shall-stand-in") },
                    { value: "no", words: t("compose.declaration.shall-not-stand-in") },
                  ]}
                  onChange={(value) => {
                    const { standsIn: _, ...rest } = option;
                    set(value === "" ? rest : { ...rest, standsIn: value === "yes" }, stepNames.scoring());
                  }}
                />
                <AddPicture
                  content={option}
                  name={nameOf(option, place)}
                  onChange={(next) => set(next, stepNames.picture())}
                />
              </div>
            </div>
          );
        }}
      </ItemRows>
      <Mistake words={mistakes.get("options")} />
      {options.length < MOST && (
        <AddButton
          words={t("compose.declaration.add-a-statement")}
          onAdd={() => put([...options, { id: newName("d"), text: "" }], stepNames.added())}
        />
      )}
    </>
  );
}
