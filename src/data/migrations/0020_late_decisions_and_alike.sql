CREATE TYPE "public"."late_decision" AS ENUM('taken', 'left');--> statement-breakpoint
CREATE TABLE "alike_pair" (
	"quiz_id" uuid NOT NULL,
	"question_id" text NOT NULL,
	"attempt_a" uuid NOT NULL,
	"attempt_b" uuid NOT NULL,
	"shared" integer NOT NULL,
	"of" integer NOT NULL,
	CONSTRAINT "alike_pair_quiz_id_question_id_attempt_a_attempt_b_pk" PRIMARY KEY("quiz_id","question_id","attempt_a","attempt_b")
);
--> statement-breakpoint
CREATE TABLE "alike_run" (
	"quiz_id" uuid PRIMARY KEY NOT NULL,
	"asked_at" timestamp (3) with time zone NOT NULL,
	"claimed_at" timestamp (3) with time zone,
	"finished_at" timestamp (3) with time zone,
	"compared" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "late_writing" ADD COLUMN "decision" "late_decision";--> statement-breakpoint
ALTER TABLE "late_writing" ADD COLUMN "decided_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "late_writing" ADD COLUMN "decided_by" uuid;--> statement-breakpoint
ALTER TABLE "late_writing" ADD COLUMN "reason" text;--> statement-breakpoint
ALTER TABLE "alike_pair" ADD CONSTRAINT "alike_pair_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alike_pair" ADD CONSTRAINT "alike_pair_attempt_a_attempt_id_fk" FOREIGN KEY ("attempt_a") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alike_pair" ADD CONSTRAINT "alike_pair_attempt_b_attempt_id_fk" FOREIGN KEY ("attempt_b") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alike_run" ADD CONSTRAINT "alike_run_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "late_writing" ADD CONSTRAINT "late_writing_decided_by_person_id_fk" FOREIGN KEY ("decided_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;