import { type Exact, exact } from "../../numbers/exact";
import { valueCount } from "../../numbers/variables";
import { type Numeric, trialDraws, workedOutWith } from "./question";
import { keyFigure } from "./right-value";

/** What the drawn numbers of a question come to. */
export interface NumbersDrawn {
  /** How many different papers the draws make; 1: all have the same. */
  readonly papers: number;
  /** Whether all of them were looked at, or a large sample. */
  readonly all: boolean;
  /** The least and the largest key of each part, as they are shown; of parts that have one in every draw. */
  readonly parts: readonly { readonly id: string; readonly least: string; readonly most: string }[];
}

/** As many draws as are looked at one by one. */
const ALL = 1_200;

/** What the numbers of a question come to over its draws; null where a key cannot be worked out. */
export function numbersDrawn(question: Numeric): NumbersDrawn | null {
  try {
    const variables = question.variables ?? [];
    const papers = variables.map(valueCount).reduce((product, count) => product * count, 1);
    const least = new Map<string, Exact>();
    const most = new Map<string, Exact>();
    for (const values of trialDraws(variables)) {
      const { keys, faults } = workedOutWith(question, values);
      if (faults.size > 0) return null;
      for (const [id, key] of keys) {
        const [low, high] = [least.get(id), most.get(id)];
        if (!low || key.compare(low) < 0) least.set(id, key);
        if (!high || key.compare(high) > 0) most.set(id, key);
      }
    }
    return {
      papers,
      all: papers <= ALL,
      parts: question.parts.map((part) => ({
        id: part.id,
        least: keyFigure(part, least.get(part.id) ?? exact(0)),
        most: keyFigure(part, most.get(part.id) ?? exact(0)),
      })),
    };
  } catch {
    return null;
  }
}
