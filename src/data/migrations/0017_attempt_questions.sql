CREATE TABLE "attempt_question" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"question_id" text NOT NULL,
	CONSTRAINT "attempt_question_attempt_id_slot_pk" PRIMARY KEY("attempt_id","slot")
);
--> statement-breakpoint
CREATE TABLE "re_marking" (
	"id" uuid PRIMARY KEY NOT NULL,
	"quiz_id" uuid NOT NULL,
	"question_id" text NOT NULL,
	"change" jsonb NOT NULL,
	"reason" text NOT NULL,
	"version_id" uuid,
	"expects" text NOT NULL,
	"undoes" uuid,
	"maker_id" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer NOT NULL,
	"claimed_at" timestamp (3) with time zone,
	"finished_at" timestamp (3) with time zone,
	"refused" text,
	"undone_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "mark" ADD COLUMN "question_id" text;--> statement-breakpoint
ALTER TABLE "mark" ADD COLUMN "version_id" uuid;--> statement-breakpoint
ALTER TABLE "mark" ADD COLUMN "batch_id" uuid;--> statement-breakpoint
ALTER TABLE "mark" ADD COLUMN "criteria" jsonb;--> statement-breakpoint
ALTER TABLE "mark" ADD COLUMN "feedback" text;--> statement-breakpoint
ALTER TABLE "attempt_question" ADD CONSTRAINT "attempt_question_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "re_marking" ADD CONSTRAINT "re_marking_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "re_marking" ADD CONSTRAINT "re_marking_version_id_quiz_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."quiz_version"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "re_marking" ADD CONSTRAINT "re_marking_maker_id_person_id_fk" FOREIGN KEY ("maker_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "attempt_question_question_id_index" ON "attempt_question" USING btree ("question_id");--> statement-breakpoint
CREATE INDEX "re_marking_quiz_id_question_id_index" ON "re_marking" USING btree ("quiz_id","question_id");--> statement-breakpoint
ALTER TABLE "mark" ADD CONSTRAINT "mark_version_id_quiz_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."quiz_version"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mark" ADD CONSTRAINT "mark_batch_id_re_marking_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."re_marking"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "mark_batch" ON "mark" USING btree ("batch_id") WHERE "mark"."batch_id" is not null;--> statement-breakpoint
-- Which question an older mark is of follows from its attempt's draw, which only the application can repeat: it carries that
-- over when it starts. From now on every mark says it.
ALTER TABLE "mark" ADD CONSTRAINT "mark_names_its_question" CHECK ("mark"."question_id" is not null) NOT VALID;--> statement-breakpoint
UPDATE "mark" SET "version_id" = "attempt"."version_id",
    "criteria" = (SELECT jsonb_object_agg("key", jsonb_build_object('level', "value")) FROM jsonb_each("mark"."levels"))
  FROM "attempt" WHERE "attempt"."id" = "mark"."attempt_id";