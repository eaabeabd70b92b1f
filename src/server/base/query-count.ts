import { queryCount } from "@/data/database";

/** Does something, and tells how many queries it made: so that each page's number is known. */
export async function countingQueries<T>(todo: () => Promise<T>): Promise<{ result: T; queries: number }> {
  const counter = { queries: 0 };
  const result = await queryCount.run(counter, todo);
  return { result, queries: counter.queries };
}
