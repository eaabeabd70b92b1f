import type { Ordering } from "@/core/kinds/ordering/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { AddPicture, ContentWritten } from "../writing/ContentWritten";
import { AddButton, Choice, Mistake } from "../writing/fields";
import { ItemRows } from "../writing/ItemRows";
import { withPasted } from "../writing/pasted-rows";
import { stepNames } from "../writing/step-names";

const MOST = 26;
type Item = Ordering["items"][number];

/** The items in their right order: students get them mixed. */
export function OrderingCompose(props: ComposeProps<Ordering>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  const { items } = question;
  const put = (next: Ordering["items"], words: string, typedIn?: string) =>
    onChange({ ...question, items: next }, words, typedIn);
  const nameOf = (_: unknown, place: number) => t("compose.ordering.item", { nth: place + 1 });
  const add = () => put([...items, { id: newName("i"), text: "" }], stepNames.added());
  return (
    <>
      <p className="small mb-1">{t("compose.ordering.in-the-right-order")}</p>
      <ItemRows
        items={items}
        nameOf={nameOf}
        least={2}
        onMove={(next) => put(next, stepNames.moved())}
        onRemove={({ id }) =>
          put(
            items.filter((each) => each.id !== id),
            stepNames.removed(),
          )
        }
      >
        {(item, place) => {
          const set = (next: Item, isTyped: boolean) =>
            put(
              items.map((each) => (each.id === item.id ? next : each)),
              isTyped ? stepNames.typing() : stepNames.picture(),
              isTyped ? `piece-${slot} ${item.id}` : undefined,
            );
          return (
            <div className="flex items-start gap-3">
              <span className="w-5 pt-1 text-right font-bold text-ink-2" aria-hidden="true">
                {place + 1}
              </span>
              <div className="min-w-0 flex-1 pt-1">
                <ContentWritten
                  content={item}
                  name={nameOf(item, place)}
                  placeholder={t("compose.ordering.what-comes-here")}
                  language={language}
                  mistake={mistakes.get(`items[${place}].text`) ?? mistakes.get(`items[${place}]`)}
                  onChange={set}
                  onEnter={() => (place === items.length - 1 && items.length < MOST ? add() : undefined)}
                  onRows={(rows) => {
                    const next = withPasted<Item>(items, place, rows, () => ({ id: newName("i") }));
                    put(next.slice(0, MOST), stepNames.pasted());
                    return true;
                  }}
                />
                <AddPicture content={item} name={nameOf(item, place)} onChange={(next) => set(next, false)} />
              </div>
            </div>
          );
        }}
      </ItemRows>
      <Mistake words={mistakes.get("items")} />
      {items.length < MOST && <AddButton words={t("compose.ordering.add-an-item")} onAdd={add} />}
      <Choice
        className="mt-4"
        label={t("compose.several-of-several.how-it-counts")}
        value={question.credit}
        options={[
          { value: "neighbours", words: t("compose.ordering.by-neighbours") },
          { value: "exact", words: t("compose.ordering.whole-order") },
        ]}
        onChange={(credit) => onChange({ ...question, credit }, stepNames.scoring())}
      />
    </>
  );
}
