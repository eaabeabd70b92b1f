ALTER TABLE "allowance" DROP CONSTRAINT "allowance_quiz_id_person_id_pk";--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "quiz_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "person_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "factor" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "factor" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "extra_minutes" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "extra_minutes" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "extra_attempts" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "extra_attempts" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
ALTER TABLE "allowance" ALTER COLUMN "id" DROP DEFAULT;--> statement-breakpoint
-- What gives nothing of its own is "as everyone" from now on.
UPDATE "allowance" SET "factor" = nullif("factor", 1), "extra_minutes" = nullif("extra_minutes", 0), "extra_attempts" = nullif("extra_attempts", 0);--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "course_id" uuid;--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "section_id" uuid;--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "no_due" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "no_closing" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "days_later" integer;--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "ended_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "ended_by" uuid;--> statement-breakpoint
ALTER TABLE "allowance" ADD COLUMN "end_reason" text;--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_section_id_course_section_id_fk" FOREIGN KEY ("section_id") REFERENCES "public"."course_section"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_ended_by_person_id_fk" FOREIGN KEY ("ended_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "allowance_that_holds" ON "allowance" USING btree (coalesce("quiz_id", "course_id"),coalesce("person_id", "section_id")) WHERE "allowance"."ended_at" is null;--> statement-breakpoint
CREATE INDEX "allowance_quiz_id_index" ON "allowance" USING btree ("quiz_id");--> statement-breakpoint
CREATE INDEX "allowance_course_id_index" ON "allowance" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "allowance_person_id_index" ON "allowance" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "allowance_section_id_index" ON "allowance" USING btree ("section_id");--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_of_one" CHECK (num_nonnulls("allowance"."quiz_id", "allowance"."course_id") = 1);--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_to_one" CHECK (num_nonnulls("allowance"."person_id", "allowance"."section_id") = 1);--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_own_window_in_one_quiz" CHECK ("allowance"."quiz_id" is not null or num_nonnulls("allowance"."opens", "allowance"."due", "allowance"."closes") = 0);--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_days_in_a_course" CHECK ("allowance"."course_id" is not null or "allowance"."days_later" is null);--> statement-breakpoint
-- Notices that were written under the name that these words had.
UPDATE "person_notice" SET "text" = replace("text"::text, '"server.quizzes.move-window.', '"server.quizzes.set-times.')::jsonb WHERE "text"::text LIKE '%"server.quizzes.move-window.%';
