/** What a table of marks would change, or what is wrong with it. */
export interface MarksFilePreview {
  readonly changes: readonly {
    readonly line: number;
    readonly name: string;
    readonly title: string;
    /** What stands there now; empty: nothing. */
    readonly from: string;
    readonly to: string;
    readonly maximum: string;
  }[];
  readonly mistakes: readonly { readonly line: number; readonly words: string }[];
  readonly moreMistakes: number;
  /** Whether it was read as older programs for tables write it, because it is no UTF-8: accents may be wrong. */
  readonly isOld: boolean;
  /** What was looked at; sent back, so that nothing else is done. */
  readonly expects: string;
}
