import { movedIn } from "@/core/course/plan-draft";
import type { GradebookPlan, PlannedCategory, PlannedItem } from "@/core/gradebook/gradebook-plan";

type Categories = readonly PlannedCategory[];

/** The next name of something new: it gets its own once it is written. */
export function newName(plan: GradebookPlan): string {
  const taken = new Set(plan.categories.flatMap(({ id, items }) => [id, ...items.map((item) => item.id)]));
  let n = 1;
  while (taken.has(`new-${n}`)) n += 1;
  return `new-${n}`;
}

const withCategories = (plan: GradebookPlan, categories: Categories): GradebookPlan => ({
  ...plan,
  categories,
});

export const changeCategory = (
  plan: GradebookPlan,
  id: string,
  change: Partial<PlannedCategory>,
): GradebookPlan =>
  withCategories(
    plan,
    plan.categories.map((each) => (each.id === id ? { ...each, ...change } : each)),
  );

export const changeItem = (plan: GradebookPlan, id: string, change: Partial<PlannedItem>): GradebookPlan =>
  withCategories(
    plan,
    plan.categories.map((category) => ({
      ...category,
      items: category.items.map((item) => (item.id === id ? { ...item, ...change } : item)),
    })),
  );

export const withoutItem = (plan: GradebookPlan, id: string): GradebookPlan =>
  withCategories(
    plan,
    plan.categories.map((category) => ({
      ...category,
      items: category.items
        .filter((item) => item.id !== id)
        .map((item) => (item.standsInFor === id ? { ...item, standsInFor: null } : item)),
    })),
  );

/** An item at the end of another category. */
export function moveItem(plan: GradebookPlan, id: string, to: string): GradebookPlan {
  const item = plan.categories.flatMap(({ items }) => items).find((each) => each.id === id);
  if (!item) return plan;
  return withCategories(
    plan,
    plan.categories.map((category) => {
      const items = category.items.filter((each) => each.id !== id);
      return { ...category, items: category.id === to ? [...items, item] : items };
    }),
  );
}

/** An item one place earlier in its category. */
export const earlier = (plan: GradebookPlan, id: string): GradebookPlan =>
  withCategories(
    plan,
    plan.categories.map((category) => ({
      ...category,
      items: movedIn(
        category.items,
        category.items.findIndex((item) => item.id === id),
        -1,
      ),
    })),
  );

export const withItem = (plan: GradebookPlan, categoryId: string, item: PlannedItem): GradebookPlan =>
  changeCategory(plan, categoryId, {
    items: [...(plan.categories.find(({ id }) => id === categoryId)?.items ?? []), item],
  });

export const withCategory = (plan: GradebookPlan, category: PlannedCategory): GradebookPlan =>
  withCategories(plan, [...plan.categories, category]);

export const withoutCategory = (plan: GradebookPlan, id: string): GradebookPlan =>
  withCategories(
    plan,
    plan.categories.filter((each) => each.id !== id),
  );

/** An earlier plan as a draft of now: what is not there any more is new again. */
export function asDraft(earlierPlan: GradebookPlan, now: GradebookPlan): GradebookPlan {
  const known = new Set(now.categories.flatMap(({ id, items }) => [id, ...items.map((item) => item.id)]));
  const made = new Map<string, string>();
  const idOf = (id: string) => {
    if (known.has(id)) return id;
    const name = made.get(id) ?? `new-${made.size + 1}`;
    made.set(id, name);
    return name;
  };
  return {
    ...earlierPlan,
    categories: earlierPlan.categories.map((category) => ({
      ...category,
      id: idOf(category.id),
      items: category.items.map((item) => ({
        ...item,
        id: idOf(item.id),
        // Versions from before it could be set do not say it.
        standsInFor: item.standsInFor ? idOf(item.standsInFor) : null,
      })),
    })),
  };
}

/** Figures as they were typed, with a point. */
export function asSent(plan: GradebookPlan): GradebookPlan {
  const figure = (text: string) => text.trim().replace(",", ".");
  return withCategories(
    plan,
    plan.categories.map((category) => ({
      ...category,
      weight: figure(category.weight),
      items: category.items.map((item) => ({ ...item, maximum: figure(item.maximum) })),
    })),
  );
}
