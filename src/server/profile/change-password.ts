import { and, eq, ne } from "drizzle-orm";
import * as yup from "yup";
import { said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { account, session } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { note } from "../base/record";
import { hashPassword } from "../sign-in/accounts";
import { confirmPassword, passwordOf } from "../sign-in/confirm-password";
import { passwordProblem } from "../sign-in/password-rules";
import { tellChanged } from "../sign-in/security-mail";

const form = yup.object({
  current: yup
    .string()
    .max(500)
    .required(said("server.profile.change-password.write-the-password-that-you-have")),
  next: yup.string().max(500).required(said("server.profile.change-password.write-the-new-password")),
});

/** Changes a person's own password; every other session of theirs ends. */
export async function changePassword(viewer: Viewer, token: string | null, input: unknown): Promise<void> {
  const { current, next } = inputOf(form, input);
  await confirmPassword(viewer, current);
  if (current === next) throw badInput(t("server.profile.change-password.the-new-password-is-the-one"));
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
    await tellChanged(
      tx,
      viewer.id,
      said("server.profile.change-password.your-password-was-changed-and-every"),
    );
  });
}
