import type { TriedPart } from "@/core/attempt/attempt-progress";
import type { PictureView } from "@/core/desk/desk-view";
import type { Answer, PresentedQuestion } from "@/core/kinds/answering";
import type { PendingFile } from "../keeping/file-queue";

/** What the answer view of a kind gets. */
export interface AnswerProps<P extends PresentedQuestion, A extends Answer> {
  readonly attemptId: string;
  readonly slot: number;
  readonly question: P;
  readonly answer: A | null;
  readonly ruledOut: readonly string[];
  readonly pictures: readonly PictureView[];
  /** It can be read but no longer changed. */
  readonly closed: boolean;
  /** The same for its parts, by their place: what checking has closed. Empty where nothing was checked. */
  readonly closedParts: readonly boolean[];
  /** What checking has come to for each part; null where nothing can be checked. */
  readonly tries: readonly TriedPart[] | null;
  /** Checks one part by its place; absent where nothing can be checked. */
  readonly onCheckPart?: (part: number) => void;
  /** The share of a part's marks that a wrong try costs: "1/4"; "" where nothing can be checked. */
  readonly tryCost: string;
  /** A check is on its way. */
  readonly checking: boolean;
  /** Files on their way to this question. */
  readonly files: readonly PendingFile[];
  readonly onFile: (file: File) => void;
  /** Forgets a file on its way: cancelled, read about, or put where it belongs. */
  readonly onFileDone: (id: string) => void;
  /** For picks: complete as it is. */
  readonly onChoose: (answer: A | null) => void;
  /** For typing: more may follow. */
  readonly onType: (answer: A | null) => void;
  /** The field was left. */
  readonly onLeave: () => void;
  readonly onRuleOut: (option: string) => void;
}
