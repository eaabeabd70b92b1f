ALTER TABLE "record" ADD COLUMN "course_id" uuid;--> statement-breakpoint
CREATE INDEX "record_course_id_at_index" ON "record" USING btree ("course_id","at");--> statement-breakpoint
ALTER TABLE "margin_note" DROP COLUMN "about";--> statement-breakpoint
UPDATE "record" SET "course_id" = "quiz"."course_id" FROM "quiz" WHERE "record"."subject" = 'quiz' AND "quiz"."id" = "record"."subject_id";--> statement-breakpoint
UPDATE "record" SET "course_id" = "quiz"."course_id" FROM "attempt" JOIN "quiz" ON "quiz"."id" = "attempt"."quiz_id"
  WHERE "record"."subject" = 'attempt' AND "attempt"."id" = "record"."subject_id";
