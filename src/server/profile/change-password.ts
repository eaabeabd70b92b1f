import { and, eq, ne } from "drizzle-orm";
import * as yup from "yup";
import { database, inTransaction } from "@/data/database";
import { account, session } from "@/data/schema";
import { hashPassword, passwordMatches } from "../accounts";
import { inputOf } from "../input";
import { badInput, notFound } from "../problems";
import { note } from "../record";
import type { Viewer } from "../viewer";

const LEAST = 10;
const form = yup.object({
  current: yup.string().max(500).required("Write the password that you have now."),
  next: yup
    .string()
    .min(LEAST, `A password has ${LEAST} characters or more; a few words in a row are easy to remember.`)
    .max(200, "A password has 200 characters at most.")
    .required("Write the new password."),
});

/** Changes a person's own password; every other session of theirs ends. */
export async function changePassword(viewer: Viewer, token: string | null, input: unknown): Promise<void> {
  const { current, next } = inputOf(form, input);
  const own = and(eq(account.userId, viewer.id), eq(account.providerId, "credential"));
  const [kept] = await database().select().from(account).where(own);
  if (!kept?.password) throw notFound();
  if (!(await passwordMatches(kept.password, current))) {
    throw badInput("The password that you have now is not right; nothing was changed.");
  }
  if (current === next) throw badInput("The new password is the one that you have now.");
  const password = await hashPassword(next);
  await inTransaction(async (tx) => {
    await tx.update(account).set({ password }).where(own);
    await tx.delete(session).where(and(eq(session.userId, viewer.id), ne(session.token, token ?? "")));
    await note(tx, {
      actorId: viewer.id,
      action: "changed the password",
      subject: "person",
      subjectId: viewer.id,
      details: {},
    });
  });
}
