import { and, eq, ne } from "drizzle-orm";
import * as yup from "yup";
import { database, inTransaction } from "@/data/database";
import { account, session } from "@/data/schema";
import { hashPassword, passwordMatches } from "../accounts";
import { inputOf } from "../input";
import { badInput, notFound } from "../problems";
import { note } from "../record";
import { passwordProblem } from "../sign-in/password-rules";
import { tellChanged } from "../sign-in/security-mail";
import { countTry, forgiveTry, ownPace } from "../sign-in/try-pace";
import type { Viewer } from "../viewer";

const form = yup.object({
  current: yup.string().max(500).required("Write the password that you have now."),
  next: yup.string().max(500).required("Write the new password."),
});

/** The password of an account, when what was given is it; each try is counted first. @throws Problem */
export async function confirmPassword(viewer: Viewer, given: string): Promise<void> {
  await countTry(ownPace(viewer.id));
  const [kept] = await database().select().from(account).where(passwordOf(viewer.id));
  if (!kept?.password) throw notFound();
  if (!(await passwordMatches(kept.password, given))) {
    throw badInput("The password that you have now is not right; nothing was changed.");
  }
  await forgiveTry(ownPace(viewer.id));
}

const passwordOf = (personId: string) =>
  and(eq(account.userId, personId), eq(account.providerId, "credential"));

/** Changes a person's own password; every other session of theirs ends. */
export async function changePassword(viewer: Viewer, token: string | null, input: unknown): Promise<void> {
  const { current, next } = inputOf(form, input);
  await confirmPassword(viewer, current);
  if (current === next) throw badInput("The new password is the one that you have now.");
  const problem = passwordProblem(next, viewer);
  if (problem) throw badInput(problem);
  const password = await hashPassword(next);
  await inTransaction(async (tx) => {
    await tx.update(account).set({ password }).where(passwordOf(viewer.id));
    await tx.delete(session).where(and(eq(session.userId, viewer.id), ne(session.token, token ?? "")));
    await note(tx, {
      actorId: viewer.id,
      action: "changed the password",
      subject: "person",
      subjectId: viewer.id,
      details: {},
    });
    await tellChanged(tx, viewer.id, "Your password was changed, and every other session was ended");
  });
}
