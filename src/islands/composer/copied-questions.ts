import { asWritten } from "@/core/draft/blank";
import { canBeQuestion } from "@/core/draft/piece-shape";
import { type DraftPiece, type Pieces, picturesOf, questionOf } from "@/core/draft/pieces";
import { fieldsOf, mapFields } from "@/core/kinds/fields";
import { marking, type Question } from "@/core/kinds/marking";
import { t } from "@/words/t";
import type { ComposerStore } from "./composer-store";
import type { DraftDeeds } from "./draft-deeds";
import { bringFile } from "./use-pictures";

/** Questions as they are copied from one quiz to another: as text, so that they can be pasted anywhere. */
interface Copied {
  readonly format: "shizuka-questions";
  /** Where the pictures are to be had. */
  readonly from: string;
  readonly questions: readonly Question[];
  readonly pictures: readonly {
    readonly id: string;
    readonly alt: string;
    readonly asset: string;
    readonly aspect: number;
  }[];
}

/** A question with the pictures that it shows, as text. A sound or a film stays behind. */
export function copiedQuestion(pieces: Pieces, slot: number, from: string): string {
  const question = questionOf(pieces, slot);
  if (!question) return "";
  const { recording: _, ...rest } = question;
  const shown = new Set(fieldsOf(question, marking(question.kind).fields, "picture"));
  const pictures = [...picturesOf(pieces).values()]
    .filter(({ id }) => shown.has(id))
    .map(({ id, alt, asset, aspect }) => ({ id, alt, asset, aspect }));
  const copied: Copied = { format: "shizuka-questions", from, questions: [rest as Question], pictures };
  return JSON.stringify(copied);
}

function copiedIn(text: string): Copied | null {
  try {
    const value = JSON.parse(text) as Copied;
    const isCopied =
      value?.format === "shizuka-questions" &&
      typeof value.from === "string" &&
      /^\/api\/drafts\/[0-9a-f-]{36}$/.test(value.from) &&
      Array.isArray(value.questions) &&
      value.questions.length > 0 &&
      value.questions.length <= 200 &&
      value.questions.every(canBeQuestion) &&
      Array.isArray(value.pictures);
    return isCopied ? value : null;
  } catch {
    return null;
  }
}

/** Whether a text holds questions that were copied. */
export const holdsQuestions = (text: string): boolean => copiedIn(text) !== null;

/** Puts copied questions in, with names of their own and with their pictures. Answers how many. */
export async function pasteQuestions(store: ComposerStore, deeds: DraftDeeds, text: string): Promise<number> {
  const copied = copiedIn(text);
  if (!copied) return 0;
  const names = new Map<string, string>();
  const pieces: DraftPiece[] = [];
  for (const { id, alt, asset, aspect } of copied.pictures) {
    const name = store.newName("pic");
    let kept = asset;
    if (copied.from !== store.path) {
      const response = await fetch(`${copied.from}/assets/${encodeURIComponent(asset)}`);
      // What may not be had any more is brought anew by hand: the question says that its picture is missing.
      if (!response.ok) continue;
      kept = (await bringFile(store.path, await response.blob())).asset;
    }
    names.set(id, name);
    pieces.push({
      piece: "picture",
      picture: { id: name, alt: String(alt ?? ""), asset: kept, aspect: Number(aspect) || 1 },
    });
  }
  const questions = copied.questions.map((question) => ({
    ...mapFields(asWritten(question), marking(question.kind).fields, (held, use) =>
      use === "picture" ? (names.get(held) ?? held) : held,
    ),
    id: store.newName("q"),
  })) as Question[];
  deeds.put(questions, t("composer.copied-questions.pasting"), pieces);
  return questions.length;
}
