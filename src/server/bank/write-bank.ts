import { randomUUID } from "node:crypto";
import { and, eq, isNull } from "drizzle-orm";
import * as yup from "yup";
import { type BankPicture, picturesShown, withPictureIds } from "@/core/draft/bank";
import type { Question } from "@/core/kinds/marking";
import { exactObject } from "@/core/kinds/shapes";
import { said } from "@/core/said";
import type { Database } from "@/data/database";
import { bankQuestion, bankVersion } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { now } from "../base/clock";
import { hasWords } from "../base/input";
import { note } from "../base/record";

/** As many tags as a question of the bank may have, and questions as a bank may hold. */
export const MOST_TAGS = 12;

const word = (most: number) => yup.string().strict().max(most);

/** Where a question stands in the bank. */
export const placeFields = {
  topic: word(80)
    .test("words", said("server.bank.write-bank.a-topic-is-missing"), hasWords)
    .required(said("server.bank.write-bank.a-topic-is-missing")),
  tags: yup
    .array()
    .of(word(40).test("words", said("server.bank.write-bank.a-tag-has-words"), hasWords).required())
    .max(MOST_TAGS)
    .required(),
};
const placeShape = exactObject(placeFields);
export type BankPlace = yup.InferType<typeof placeShape>;

/** A topic and tags as they are kept: no spaces around them, no tag twice. */
export const tidied = ({ topic, tags }: BankPlace): BankPlace => ({
  topic: topic.trim().replace(/\s+/g, " "),
  tags: [...new Set(tags.map((tag) => tag.trim().replace(/\s+/g, " ")))].sort(),
});

interface Written {
  readonly id: string;
  readonly version: number;
  readonly question: Question;
  readonly pictures: readonly BankPicture[];
}

/**
 * Writes a question into the bank of a course: the next version of one that is there, or a new one, also where the one that it
 * was taken from is another course's, or was put away. Its pictures get names that are the same in every quiz.
 */
export async function writeBankQuestion(
  tx: Database,
  terms: {
    readonly courseId: string;
    readonly by: string;
    /** The question of the bank that it was taken from; null: none. */
    readonly id: string | null;
    readonly place: BankPlace;
    readonly question: Question;
    readonly pictures: readonly BankPicture[];
  },
): Promise<Written> {
  const { courseId, by } = terms;
  const place = tidied(terms.place);
  const [held] =
    terms.id === null
      ? []
      : await tx
          .select()
          .from(bankQuestion)
          .where(
            and(
              eq(bankQuestion.id, terms.id),
              eq(bankQuestion.courseId, courseId),
              isNull(bankQuestion.removedAt),
            ),
          )
          .for("update");
  const shown = picturesShown(terms.question);
  const known = new Set(held?.pictures.map(({ id }) => id));
  const names = new Map(
    shown.map((id) => [id, known.has(id) ? id : `p${randomUUID().replaceAll("-", "").slice(0, 16)}`]),
  );
  const question = withPictureIds({ ...terms.question, id: "bank" }, names);
  const pictures = terms.pictures.flatMap((each) => {
    const id = names.get(each.id);
    return id === undefined ? [] : [{ ...each, id }];
  });
  const id = held?.id ?? newId();
  const version = (held?.version ?? 0) + 1;
  const values = { ...place, version, question, pictures, changedBy: by, changedAt: new Date(now()) };
  if (held) await tx.update(bankQuestion).set(values).where(eq(bankQuestion.id, id));
  else await tx.insert(bankQuestion).values({ id, courseId, ...values });
  await tx.insert(bankVersion).values({ bankId: id, version, question, byId: by });
  await note(tx, {
    actorId: by,
    action: "put into the bank",
    subject: "course",
    subjectId: courseId,
    details: { bank: id, version },
  });
  return { id, version, question, pictures };
}
