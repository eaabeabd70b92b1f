import { and, eq, gt, sql } from "drizzle-orm";
import * as yup from "yup";
import type { Holder } from "@/core/desk/room-view";
import { said } from "@/core/said";
import { MINUTE } from "@/core/time/instants";
import { database, inTransaction, type Queryable } from "@/data/database";
import { claim, handMarking, person } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { lockAttempt } from "../attempts/lock-attempt";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { note } from "../base/record";
import { openRoom, paperOf } from "./room";

/** So long an answer is somebody's after they last said so; a page that is open says it three times in that time. */
const CLAIM = 2 * MINUTE;

/** Who has an answer open: not this page, and not longer ago than a claim lasts. */
export async function holderOf(
  db: Queryable,
  where: { readonly attemptId: string; readonly slot: number },
  viewer: Viewer,
  device: string | null,
): Promise<Holder | null> {
  const [row] = await db
    .select({ personId: claim.personId, device: claim.device, name: person.name })
    .from(claim)
    .innerJoin(person, eq(person.id, claim.personId))
    .where(
      and(eq(claim.attemptId, where.attemptId), eq(claim.slot, where.slot), gt(claim.until, new Date(now()))),
    );
  const isSelf = row?.personId === viewer.id;
  if (!row || (isSelf && row.device === device?.toLowerCase())) return null;
  return { name: row.name, isSelf };
}

/** Notes that this page has an answer open, unless another has. Returns who has it instead. */
export async function claimFor(
  db: Queryable,
  where: { readonly attemptId: string; readonly slot: number },
  viewer: Viewer,
  device: string,
  takeOver: boolean,
): Promise<Holder | null> {
  const at = now();
  const own = { personId: viewer.id, device, until: new Date(at + CLAIM) };
  const taken = await db
    .insert(claim)
    .values({ ...where, ...own })
    .onConflictDoUpdate({
      target: [claim.attemptId, claim.slot],
      set: own,
      setWhere: takeOver
        ? undefined
        : sql`${claim.until} <= ${new Date(at).toISOString()}::timestamptz or (${claim.device} = ${device}::uuid and ${claim.personId} = ${viewer.id}::uuid)`,
    })
    .returning({ slot: claim.slot });
  return taken.length > 0 ? null : holderOf(db, where, viewer, device);
}

const body = yup
  .object({
    slot: yup.number().strict().integer().min(0).max(1_000).required(),
    device: yup.string().strict().uuid().required(said("server.desk.save-answers.device-is-missing")),
    takeOver: yup.boolean().strict(),
    /** The answer is left: it is nobody's. */
    leave: yup.boolean().strict(),
  })
  .strict()
  .noUnknown();

/**
 * A page says that it has an answer open, to write to it; that it takes it over from whoever has it; or that it leaves it.
 * Returns who has it instead, null when it is this page's, and the version of what is written to it.
 */
export async function claimAnswer(
  viewer: Viewer,
  quizId: string,
  paper: number,
  input: unknown,
): Promise<{ readonly holder: Holder | null; readonly version: number }> {
  const { slot, device, takeOver = false, leave = false } = inputOf(body, input);
  const room = await openRoom(viewer, quizId);
  const row = await paperOf(room, paper);
  const where = { attemptId: row.id, slot };
  if (leave) {
    await database()
      .delete(claim)
      .where(
        and(
          eq(claim.attemptId, row.id),
          eq(claim.slot, slot),
          eq(claim.device, device),
          eq(claim.personId, viewer.id),
        ),
      );
    return { holder: null, version: 0 };
  }
  return inTransaction(async (tx) => {
    await lockAttempt(tx, row.id);
    const before = takeOver ? await holderOf(tx, where, viewer, device) : null;
    const holder = await claimFor(tx, where, viewer, device, takeOver);
    if (before && !before.isSelf)
      await note(tx, {
        actorId: viewer.id,
        action: "marking taken over",
        subject: "attempt",
        subjectId: row.id,
        details: { slot, from: before.name },
      });
    const [stands] = await tx
      .select({ version: handMarking.version })
      .from(handMarking)
      .where(and(eq(handMarking.attemptId, row.id), eq(handMarking.slot, slot)));
    return { holder, version: stands?.version ?? 0 };
  });
}
