ALTER TYPE "public"."course_role" ADD VALUE 'observer';--> statement-breakpoint
CREATE TABLE "given_quiz" (
	"quiz_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "given_quiz_quiz_id_person_id_pk" PRIMARY KEY("quiz_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "given_quiz" ADD CONSTRAINT "given_quiz_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "given_quiz" ADD CONSTRAINT "given_quiz_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
-- Assistants saw every quiz of their course until now: they keep those.
INSERT INTO "given_quiz" ("quiz_id", "person_id")
  SELECT "quiz"."id", "enrolment"."person_id" FROM "enrolment" JOIN "quiz" ON "quiz"."course_id" = "enrolment"."course_id"
  WHERE "enrolment"."role" = 'assistant';
