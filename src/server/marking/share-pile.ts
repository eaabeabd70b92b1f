import { and, asc, eq, inArray } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { said } from "@/core/said";
import { database, inTransaction } from "@/data/database";
import { enrolment, givenQuiz, person, pileView, sectionMember, sharedPaper } from "@/data/schema";
import { t } from "@/words/t";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { note } from "../base/record";
import { linesOf } from "./pile";
import { openRoom } from "./room";

const viewBody = yup
  .object({
    namesHidden: yup.boolean().strict().required(),
    byStudent: yup.boolean().strict().required(),
  })
  .strict()
  .noUnknown();

/** Somebody chooses how they see the pile of a quiz; others see it as they chose. */
export async function changePileView(viewer: Viewer, quizId: string, input: unknown): Promise<void> {
  const view = inputOf(viewBody, input);
  const { opened } = await openRoom(viewer, quizId);
  await database()
    .insert(pileView)
    .values({ quizId: opened.quiz.id, personId: viewer.id, ...view })
    .onConflictDoUpdate({ target: [pileView.quizId, pileView.personId], set: view });
}

/** Who may mark at a quiz: its instructors, and the assistants to whom it was given. */
export async function markersOf(quizId: string, courseId: string) {
  const rows = await database()
    .select({ id: person.id, name: person.name, role: enrolment.role, given: givenQuiz.quizId })
    .from(enrolment)
    .innerJoin(person, eq(person.id, enrolment.personId))
    .leftJoin(givenQuiz, and(eq(givenQuiz.personId, enrolment.personId), eq(givenQuiz.quizId, quizId)))
    .where(and(eq(enrolment.courseId, courseId), inArray(enrolment.role, ["assistant", "instructor"])))
    .orderBy(asc(person.name));
  return rows
    .filter(({ role, given }) => role === "instructor" || given !== null)
    .map(({ id, name }) => ({ id, name }));
}

const uuid = () =>
  yup
    .string()
    .strict()
    .test(
      "uuid",
      said("server.marking.share-pile.this-is-not-an-id"),
      (id) => id === undefined || isUuid(id),
    );

const shareBody = yup
  .object({
    markers: yup
      .array()
      .of(uuid().required())
      .min(1, said("server.marking.share-pile.choose-who-marks"))
      .max(100)
      .required(),
    section: uuid(),
  })
  .strict()
  .noUnknown();

/**
 * Shares the papers that still await marking out among some markers, evenly and in the order of their numbers; of one section
 * only, if one is named. Returns how many papers each has got.
 */
export async function sharePile(
  viewer: Viewer,
  quizId: string,
  input: unknown,
): Promise<{ readonly shares: readonly { readonly name: string; readonly papers: number }[] }> {
  const { markers: wanted, section } = inputOf(shareBody, input);
  const room = await openRoom(viewer, quizId);
  mustMay(room.opened, "rule");
  const { quiz, course } = room.opened;
  const may = await markersOf(quiz.id, course.id);
  const markers = may.filter(({ id }) => wanted.includes(id));
  if (markers.length < new Set(wanted).size) throw badInput(t("server.marking.share-pile.only-who-may-mark"));
  const { lines } = await linesOf(room);
  const members =
    section === undefined
      ? null
      : new Set(
          (
            await database()
              .select({ id: sectionMember.personId })
              .from(sectionMember)
              .where(eq(sectionMember.sectionId, section))
          ).map(({ id }) => id),
        );
  const papers = [
    ...new Set(
      lines
        .filter(({ state }) => state === "awaits" || state === "begun")
        .filter(({ personId }) => members === null || members.has(personId))
        .map(({ attemptId }) => attemptId),
    ),
  ];
  const shares = markers.map(({ name }) => ({ name, papers: 0 }));
  const rows = papers.map((attemptId, i) => {
    const share = shares[i % markers.length];
    if (share) share.papers += 1;
    return { attemptId, markerId: markers[i % markers.length]?.id ?? viewer.id };
  });
  await inTransaction(async (tx) => {
    if (rows.length > 0) {
      await tx.delete(sharedPaper).where(inArray(sharedPaper.attemptId, papers));
      await tx.insert(sharedPaper).values(rows);
    }
    await note(tx, {
      actorId: viewer.id,
      action: "pile shared out",
      subject: "quiz",
      subjectId: quiz.id,
      details: { shares },
    });
  });
  return { shares };
}
