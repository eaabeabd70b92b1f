CREATE TYPE "public"."plan_entry_kind" AS ENUM('quiz', 'reading', 'notice');--> statement-breakpoint
CREATE TYPE "public"."mail_state" AS ENUM('waiting', 'sent', 'off', 'failed');--> statement-breakpoint
CREATE TABLE "margin_note" (
	"id" uuid PRIMARY KEY NOT NULL,
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"author_id" uuid NOT NULL,
	"about" text,
	"text" text NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "plan_entry" (
	"id" uuid PRIMARY KEY NOT NULL,
	"section_id" uuid NOT NULL,
	"kind" "plan_entry_kind" NOT NULL,
	"quiz_id" uuid,
	"text" text NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "plan_section" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"title" text NOT NULL,
	"starts" timestamp (3) with time zone,
	"position" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stand_in" (
	"item_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "stand_in_item_id_person_id_pk" PRIMARY KEY("item_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "house_mail" (
	"id" uuid PRIMARY KEY NOT NULL,
	"recipient" text NOT NULL,
	"subject" text NOT NULL,
	"text" text NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "person_notice" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"text" text NOT NULL,
	"path" text NOT NULL,
	"read_at" timestamp (3) with time zone,
	"mail" "mail_state" NOT NULL,
	"mail_tries" integer DEFAULT 0 NOT NULL,
	"mail_from" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "practice_answer" (
	"run_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"answer" jsonb,
	"detail" jsonb NOT NULL,
	"marked_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "practice_answer_run_id_slot_pk" PRIMARY KEY("run_id","slot")
);
--> statement-breakpoint
CREATE TABLE "practice_run" (
	"id" uuid PRIMARY KEY NOT NULL,
	"attempt_id" uuid NOT NULL,
	"seed" text NOT NULL,
	"slots" jsonb NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "assignment" (
	"quiz_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "assignment_quiz_id_person_id_pk" PRIMARY KEY("quiz_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "mark" ADD COLUMN "hand_in" smallint DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "mark" ADD COLUMN "levels" jsonb;--> statement-breakpoint
ALTER TABLE "course" ADD COLUMN "missing_counts_zero" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "course" ADD COLUMN "class_shown" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "course" ADD COLUMN "scale" jsonb;--> statement-breakpoint
ALTER TABLE "enrolment" ADD COLUMN "visited_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "gradebook_item" ADD COLUMN "full_for_taking_part" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "gradebook_item" ADD COLUMN "stands_in_for_id" uuid;--> statement-breakpoint
ALTER TABLE "gradebook_item" ADD COLUMN "scale" jsonb;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "mail_off" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "quiz" ADD COLUMN "only_assigned" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "margin_note" ADD CONSTRAINT "margin_note_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "margin_note" ADD CONSTRAINT "margin_note_author_id_person_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_entry" ADD CONSTRAINT "plan_entry_section_id_plan_section_id_fk" FOREIGN KEY ("section_id") REFERENCES "public"."plan_section"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_entry" ADD CONSTRAINT "plan_entry_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_section" ADD CONSTRAINT "plan_section_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stand_in" ADD CONSTRAINT "stand_in_item_id_gradebook_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."gradebook_item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stand_in" ADD CONSTRAINT "stand_in_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "person_notice" ADD CONSTRAINT "person_notice_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practice_answer" ADD CONSTRAINT "practice_answer_run_id_practice_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."practice_run"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practice_run" ADD CONSTRAINT "practice_run_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assignment" ADD CONSTRAINT "assignment_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assignment" ADD CONSTRAINT "assignment_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "margin_note_attempt_id_index" ON "margin_note" USING btree ("attempt_id");--> statement-breakpoint
CREATE INDEX "plan_entry_section_id_index" ON "plan_entry" USING btree ("section_id");--> statement-breakpoint
CREATE INDEX "plan_section_course_id_index" ON "plan_section" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "house_mail_created_at_index" ON "house_mail" USING btree ("created_at");--> statement-breakpoint
CREATE INDEX "person_notice_person_id_created_at_index" ON "person_notice" USING btree ("person_id","created_at");--> statement-breakpoint
CREATE INDEX "unseen_notices" ON "person_notice" USING btree ("person_id") WHERE "person_notice"."read_at" is null;--> statement-breakpoint
CREATE INDEX "waiting_mail" ON "person_notice" USING btree ("mail_from") WHERE "person_notice"."mail" = 'waiting';--> statement-breakpoint
CREATE INDEX "practice_run_attempt_id_index" ON "practice_run" USING btree ("attempt_id");--> statement-breakpoint
ALTER TABLE "gradebook_item" ADD CONSTRAINT "gradebook_item_stands_in_for_id_gradebook_item_id_fk" FOREIGN KEY ("stands_in_for_id") REFERENCES "public"."gradebook_item"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
UPDATE "quiz_version" SET "facts" = "facts" || jsonb_build_object('lateCostPerDay', coalesce("content"->'rules'->'lateCostPerDay', 'null'::jsonb));
