import { and, eq } from "drizzle-orm";
import { database } from "@/data/database";
import { account } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { badInput, notFound } from "../base/problems";
import { passwordMatches } from "./accounts";
import { countTry, forgiveTry, ownPace } from "./try-pace";

/** The row of a person's password. */
export const passwordOf = (personId: string) =>
  and(eq(account.userId, personId), eq(account.providerId, "credential"));

/** Makes sure that whoever asks knows their present password; each try is counted first. @throws Problem when not */
export async function confirmPassword(viewer: Viewer, given: string): Promise<void> {
  await countTry(ownPace(viewer.id));
  const [own] = await database().select().from(account).where(passwordOf(viewer.id));
  if (!own?.password) throw notFound();
  if (!(await passwordMatches(own.password, given))) {
    throw badInput(t("server.sign-in.confirm-password.the-password-that-you-have-now"));
  }
  await forgiveTry(ownPace(viewer.id));
}
