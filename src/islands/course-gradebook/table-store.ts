import type { TableData, TableItem, TableStudent } from "@/core/gradebook/table-data";
import { ask } from "@/ui/requests";

/** A place in the table: a student, or the head of a column (-1), and a piece of work, or the standing (after the last). */
export interface Place {
  readonly row: number;
  readonly column: number;
}

/** What the lines stand in the order of: names, standings, or the marks of one piece of work. */
export interface Order {
  readonly by: "name" | "standing" | number;
  readonly fromTop: boolean;
}

export interface TableState {
  /** Null: it is not here yet. */
  readonly data: TableData | null;
  readonly items: readonly TableItem[];
  /** Those who were found, in order. */
  readonly lines: readonly TableStudent[];
  readonly find: string;
  /** A position in the list of sections; null: all. */
  readonly section: number | null;
  readonly order: Order;
  readonly place: Place | null;
  /** Whether it could not be fetched. */
  readonly failed: boolean;
}

/** After something was set, the whole table is fetched again so long after, in ms: its means have changed too. */
const AGAIN_AFTER = 1_500;

/** In the order of the figures; who has none comes last, whichever way. */
export function inOrder({ by, fromTop }: Order): (a: TableStudent, b: TableStudent) => number {
  const byName = (a: TableStudent, b: TableStudent) => a.name.localeCompare(b.name) || (a.id < b.id ? -1 : 1);
  if (by === "name") return (a, b) => (fromTop ? -byName(a, b) : byName(a, b));
  const figure = (student: TableStudent): number | null => {
    const text = by === "standing" ? student.standing.low : student.cells[by]?.[1];
    return text === null || text === undefined ? null : Number(text);
  };
  return (a, b) => {
    const [left, right] = [figure(a), figure(b)];
    if (left === null || right === null) return left === right ? byName(a, b) : left === null ? 1 : -1;
    return (fromTop ? right - left : left - right) || byName(a, b);
  };
}

const folded = (text: string): string => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

/** The gradebook of a course as it is shown, and what is picked in it. */
export class TableStore {
  readonly #listeners = new Set<() => void>();
  readonly #path: string;
  #again: ReturnType<typeof setTimeout> | undefined;
  #state: TableState = {
    data: null,
    items: [],
    lines: [],
    find: "",
    section: null,
    order: { by: "name", fromTop: false },
    place: null,
    failed: false,
  };

  constructor(slug: string) {
    this.#path = `/api/courses/${slug}/gradebook`;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly state = (): TableState => this.#state;

  #set(change: Partial<TableState>): void {
    this.#state = { ...this.#state, ...change };
    for (const listener of this.#listeners) listener();
  }

  /** Puts the lines in order anew; what is picked stays with its student, as far as they are still there. */
  #show(change: Partial<TableState>): void {
    const before = this.#state;
    const next = { ...before, ...change };
    const letters = folded(next.find.trim());
    const lines = (next.data?.students ?? [])
      .filter(({ name }) => folded(name).includes(letters))
      .filter(({ sections }) => next.section === null || sections.includes(next.section))
      .sort(inOrder(next.order));
    const picked = before.place && before.place.row >= 0 ? before.lines[before.place.row]?.id : undefined;
    const row = picked === undefined ? -1 : lines.findIndex(({ id }) => id === picked);
    const place =
      before.place === null || (picked !== undefined && row === -1) ? null : { ...before.place, row };
    this.#set({ ...change, lines, place });
  }

  /** Fetches it. */
  async load(): Promise<void> {
    clearTimeout(this.#again);
    try {
      const data = await ask<TableData>(this.#path);
      this.#show({ data, items: data.categories.flatMap(({ items }) => items), failed: false });
    } catch {
      this.#set({ failed: true });
    }
  }

  find = (find: string): void => this.#show({ find });
  inSection = (section: number | null): void => this.#show({ section });
  inOrder = (order: Order): void => this.#show({ order });
  pick = (place: Place | null): void => this.#set({ place });

  /** Lines as the server says they are now; the rest is fetched a little later. */
  changed(students: readonly TableStudent[]): void {
    const { data } = this.#state;
    if (!data) return;
    const now = new Map(students.map((each) => [each.id, each]));
    this.#show({ data: { ...data, students: data.students.map((each) => now.get(each.id) ?? each) } });
    clearTimeout(this.#again);
    this.#again = setTimeout(() => void this.load(), AGAIN_AFTER);
  }
}
