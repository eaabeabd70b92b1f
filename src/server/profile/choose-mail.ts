import { eq } from "drizzle-orm";
import * as yup from "yup";
import { NOTICE_KINDS, type NoticeKind } from "@/core/notices/notice-kinds";
import { type Said, said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { person } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { inputOf } from "../base/input";

const kinds = (missing: Said) =>
  yup
    .array()
    .of(
      yup
        .string<NoticeKind>()
        .oneOf(NOTICE_KINDS, said("server.profile.choose-mail.there-is-no-such-kind-of"))
        .required(),
    )
    .required(missing);

const form = yup.object({
  shown: kinds(said("server.profile.choose-mail.shown-is-missing-the-kinds-of")),
  wanted: kinds(said("server.profile.choose-mail.wanted-is-missing-the-kinds-of")),
});

/** Which notices also come by mail; at the bell they stand in any case. */
export async function chooseMail(viewer: Viewer, input: unknown): Promise<void> {
  const { shown, wanted } = inputOf(form, input);
  await inTransaction(async (tx) => {
    const own = eq(person.id, viewer.id);
    const [before] = await tx.select({ mailOff: person.mailOff }).from(person).where(own).for("update");
    // What was not to choose from stays as it is.
    const mailOff = NOTICE_KINDS.filter((kind) =>
      shown.includes(kind) ? !wanted.includes(kind) : before?.mailOff.includes(kind),
    );
    await tx.update(person).set({ mailOff }).where(own);
  });
}
