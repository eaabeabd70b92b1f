import type { Question } from "@/core/kinds/marking";

/** What the view gets in which a question of a kind is written. */
export interface ComposeProps<Q extends Question> {
  readonly question: Q;
  /** The number of its piece: names of fields are made with it. */
  readonly slot: number;
  /** The language of its texts. */
  readonly language: string | undefined;
  /** What has to be put right, in a sentence, by its place: "options[1].text". */
  readonly mistakes: ReadonlyMap<string, string>;
  /** The values of its drawn numbers, as they are shown now. */
  readonly values: ReadonlyMap<string, string>;
  /** A short name that nothing else has. @param letter what it begins with */
  readonly newName: (letter: string) => string;
  /**
   * Changes the question.
   * @param words what is done, as a name of it, for its undoing
   * @param typedIn the field that is typed into; absent: it is done in one go
   */
  readonly onChange: (next: Q, words: string, typedIn?: string) => void;
}
