CREATE TABLE "claim" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"person_id" uuid NOT NULL,
	"device" uuid NOT NULL,
	"until" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "claim_attempt_id_slot_pk" PRIMARY KEY("attempt_id","slot")
);
--> statement-breakpoint
CREATE TABLE "hand_marking" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"work" jsonb NOT NULL,
	"done" boolean NOT NULL,
	"version" integer NOT NULL,
	"device" uuid NOT NULL,
	"revision" bigint NOT NULL,
	"author_id" uuid NOT NULL,
	"written_at" timestamp (3) with time zone NOT NULL,
	"saved_at" timestamp (3) with time zone NOT NULL,
	"returned_version" integer,
	CONSTRAINT "hand_marking_attempt_id_slot_pk" PRIMARY KEY("attempt_id","slot")
);
--> statement-breakpoint
CREATE TABLE "hand_marking_log" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"device" uuid NOT NULL,
	"revision" bigint NOT NULL,
	"work" jsonb NOT NULL,
	"version" integer NOT NULL,
	"author_id" uuid NOT NULL,
	"written_at" timestamp (3) with time zone NOT NULL,
	"saved_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "hand_marking_log_attempt_id_slot_device_revision_pk" PRIMARY KEY("attempt_id","slot","device","revision")
);
--> statement-breakpoint
CREATE TABLE "pile_view" (
	"quiz_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"names_hidden" boolean DEFAULT false NOT NULL,
	"by_student" boolean DEFAULT false NOT NULL,
	CONSTRAINT "pile_view_quiz_id_person_id_pk" PRIMARY KEY("quiz_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "remark" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"course_id" uuid NOT NULL,
	"short" text NOT NULL,
	"text" text NOT NULL,
	"shared_at" timestamp (3) with time zone,
	"used" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "remark_personId_courseId_short_unique" UNIQUE("person_id","course_id","short")
);
--> statement-breakpoint
CREATE TABLE "shared_paper" (
	"attempt_id" uuid PRIMARY KEY NOT NULL,
	"marker_id" uuid NOT NULL
);
--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "paper" smallint;--> statement-breakpoint
ALTER TABLE "margin_note" ADD COLUMN "anchor" jsonb;--> statement-breakpoint
ALTER TABLE "margin_note" ADD COLUMN "edited_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "margin_note" ADD COLUMN "withdrawn_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "claim" ADD CONSTRAINT "claim_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claim" ADD CONSTRAINT "claim_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hand_marking" ADD CONSTRAINT "hand_marking_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hand_marking" ADD CONSTRAINT "hand_marking_author_id_person_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hand_marking_log" ADD CONSTRAINT "hand_marking_log_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pile_view" ADD CONSTRAINT "pile_view_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pile_view" ADD CONSTRAINT "pile_view_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remark" ADD CONSTRAINT "remark_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "remark" ADD CONSTRAINT "remark_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shared_paper" ADD CONSTRAINT "shared_paper_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shared_paper" ADD CONSTRAINT "shared_paper_marker_id_person_id_fk" FOREIGN KEY ("marker_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "remark_course_id_index" ON "remark" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "shared_paper_marker_id_index" ON "shared_paper" USING btree ("marker_id");--> statement-breakpoint
ALTER TABLE "mark" DROP COLUMN "levels";--> statement-breakpoint
ALTER TABLE "attempt" ADD CONSTRAINT "attempt_quizId_paper_unique" UNIQUE("quiz_id","paper");--> statement-breakpoint
-- Where its words stand in the text was not kept: the first place at which they stand is meant.
UPDATE "margin_note" SET "anchor" = jsonb_build_object('kind', 'words', 'from', 0, 'to', length("about"), 'words', "about")
  WHERE "about" IS NOT NULL;
