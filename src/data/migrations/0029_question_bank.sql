CREATE TABLE "bank_question" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"topic" text NOT NULL,
	"tags" text[] DEFAULT '{}'::text[] NOT NULL,
	"version" integer NOT NULL,
	"question" jsonb NOT NULL,
	"pictures" jsonb NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"changed_by" uuid NOT NULL,
	"changed_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"removed_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "bank_share" (
	"course_id" uuid NOT NULL,
	"with_id" uuid NOT NULL,
	CONSTRAINT "bank_share_course_id_with_id_pk" PRIMARY KEY("course_id","with_id")
);
--> statement-breakpoint
CREATE TABLE "bank_use" (
	"bank_id" uuid NOT NULL,
	"quiz_id" uuid NOT NULL,
	"question_id" text NOT NULL,
	"version" integer NOT NULL,
	CONSTRAINT "bank_use_bank_id_quiz_id_question_id_pk" PRIMARY KEY("bank_id","quiz_id","question_id")
);
--> statement-breakpoint
CREATE TABLE "bank_version" (
	"bank_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"question" jsonb NOT NULL,
	"by_id" uuid NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "bank_version_bank_id_version_pk" PRIMARY KEY("bank_id","version")
);
--> statement-breakpoint
ALTER TABLE "bank_question" ADD CONSTRAINT "bank_question_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_question" ADD CONSTRAINT "bank_question_changed_by_person_id_fk" FOREIGN KEY ("changed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_share" ADD CONSTRAINT "bank_share_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_share" ADD CONSTRAINT "bank_share_with_id_course_id_fk" FOREIGN KEY ("with_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_use" ADD CONSTRAINT "bank_use_bank_id_bank_question_id_fk" FOREIGN KEY ("bank_id") REFERENCES "public"."bank_question"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_use" ADD CONSTRAINT "bank_use_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_version" ADD CONSTRAINT "bank_version_bank_id_bank_question_id_fk" FOREIGN KEY ("bank_id") REFERENCES "public"."bank_question"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_version" ADD CONSTRAINT "bank_version_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bank_question_course_id_topic_index" ON "bank_question" USING btree ("course_id","topic");--> statement-breakpoint
CREATE INDEX "bank_share_with_id_index" ON "bank_share" USING btree ("with_id");--> statement-breakpoint
CREATE INDEX "bank_use_quiz_id_index" ON "bank_use" USING btree ("quiz_id");