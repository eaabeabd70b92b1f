CREATE TYPE "public"."handed_in_by" AS ENUM('student', 'clock', 'instructor');--> statement-breakpoint
CREATE TYPE "public"."mark_source" AS ENUM('rule', 'hand');--> statement-breakpoint
CREATE TYPE "public"."course_role" AS ENUM('student', 'assistant', 'instructor');--> statement-breakpoint
CREATE TYPE "public"."category_mean" AS ENUM('by-points', 'equal');--> statement-breakpoint
CREATE TABLE "answer" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"answer" jsonb,
	"folded" boolean DEFAULT false NOT NULL,
	"ruled_out" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"revision" bigint NOT NULL,
	"device" uuid NOT NULL,
	"written_at" timestamp (3) with time zone NOT NULL,
	"saved_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "answer_attempt_id_slot_pk" PRIMARY KEY("attempt_id","slot")
);
--> statement-breakpoint
CREATE TABLE "answer_log" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"device" uuid NOT NULL,
	"revision" bigint NOT NULL,
	"answer" jsonb,
	"folded" boolean NOT NULL,
	"ruled_out" jsonb NOT NULL,
	"written_at" timestamp (3) with time zone NOT NULL,
	"saved_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "answer_log_attempt_id_slot_device_revision_pk" PRIMARY KEY("attempt_id","slot","device","revision")
);
--> statement-breakpoint
CREATE TABLE "attempt" (
	"id" uuid PRIMARY KEY NOT NULL,
	"quiz_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"seed" text NOT NULL,
	"sent_at" timestamp (3) with time zone,
	"started_at" timestamp (3) with time zone NOT NULL,
	"confirmed" boolean DEFAULT false NOT NULL,
	"deadline" timestamp (3) with time zone,
	"handed_in_at" timestamp (3) with time zone,
	"handed_in_by" "handed_in_by",
	"here" smallint DEFAULT 1 NOT NULL,
	"earned" numeric(12, 4),
	"awaited" numeric(12, 4),
	"maximum" numeric(12, 4) NOT NULL,
	"returned_at" timestamp (3) with time zone,
	"feedback" text,
	CONSTRAINT "attempt_quizId_personId_number_unique" UNIQUE("quiz_id","person_id","number")
);
--> statement-breakpoint
CREATE TABLE "mark" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"id" uuid NOT NULL,
	"marks" numeric(12, 4) NOT NULL,
	"awaiting" numeric(12, 4) NOT NULL,
	"maximum" numeric(12, 4) NOT NULL,
	"source" "mark_source" NOT NULL,
	"detail" jsonb NOT NULL,
	"reason" text NOT NULL,
	"marked_by" uuid,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "mark_attempt_id_slot_id_pk" PRIMARY KEY("attempt_id","slot","id")
);
--> statement-breakpoint
CREATE TABLE "slip" (
	"attempt_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"code" text NOT NULL,
	"handed_in_at" timestamp (3) with time zone NOT NULL,
	"handed_in_by" "handed_in_by" NOT NULL,
	"answered" integer NOT NULL,
	"questions" integer NOT NULL,
	"digests" jsonb NOT NULL,
	CONSTRAINT "slip_attempt_id_number_pk" PRIMARY KEY("attempt_id","number"),
	CONSTRAINT "slip_code_unique" UNIQUE("code")
);
--> statement-breakpoint
CREATE TABLE "course" (
	"id" uuid PRIMARY KEY NOT NULL,
	"slug" text NOT NULL,
	"code" text NOT NULL,
	"title" text NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "course_slug_unique" UNIQUE("slug")
);
--> statement-breakpoint
CREATE TABLE "enrolment" (
	"person_id" uuid NOT NULL,
	"course_id" uuid NOT NULL,
	"role" "course_role" NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "enrolment_person_id_course_id_pk" PRIMARY KEY("person_id","course_id")
);
--> statement-breakpoint
CREATE TABLE "adjustment" (
	"item_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"marks" numeric(12, 4),
	"excused" boolean DEFAULT false NOT NULL,
	"reason" text NOT NULL,
	"set_by" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "adjustment_item_id_person_id_id_pk" PRIMARY KEY("item_id","person_id","id")
);
--> statement-breakpoint
CREATE TABLE "gradebook_category" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"title" text NOT NULL,
	"weight" numeric(9, 4) NOT NULL,
	"mean" "category_mean" DEFAULT 'by-points' NOT NULL,
	"drop_lowest" integer DEFAULT 0 NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "gradebook_item" (
	"id" uuid PRIMARY KEY NOT NULL,
	"category_id" uuid NOT NULL,
	"quiz_id" uuid,
	"title" text NOT NULL,
	"maximum" numeric(12, 4) NOT NULL,
	"position" integer NOT NULL,
	CONSTRAINT "gradebook_item_quizId_unique" UNIQUE("quiz_id")
);
--> statement-breakpoint
CREATE TABLE "notice" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"author_id" uuid NOT NULL,
	"text" text NOT NULL,
	"shown_until" timestamp (3) with time zone,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "account" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"password" text,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp (3) with time zone,
	"refresh_token_expires_at" timestamp (3) with time zone,
	"scope" text,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT true NOT NULL,
	"image" text,
	"administrator" boolean DEFAULT false NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "person_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "session" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"token" text NOT NULL,
	"expires_at" timestamp (3) with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "session_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "sign_in_tries" (
	"who" text PRIMARY KEY NOT NULL,
	"failed" integer NOT NULL,
	"since" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "verification" (
	"id" uuid PRIMARY KEY NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp (3) with time zone NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "allowance" (
	"quiz_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"factor" double precision DEFAULT 1 NOT NULL,
	"extra_minutes" double precision DEFAULT 0 NOT NULL,
	"extra_attempts" integer DEFAULT 0 NOT NULL,
	"opens" timestamp (3) with time zone,
	"due" timestamp (3) with time zone,
	"closes" timestamp (3) with time zone,
	"reason" text NOT NULL,
	"granted_by" uuid,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "allowance_quiz_id_person_id_pk" PRIMARY KEY("quiz_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "quiz" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"title" text NOT NULL,
	"opens" timestamp (3) with time zone,
	"due" timestamp (3) with time zone,
	"closes" timestamp (3) with time zone,
	"instructor_id" uuid NOT NULL,
	"current_version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "quiz_version" (
	"id" uuid PRIMARY KEY NOT NULL,
	"quiz_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"content" jsonb NOT NULL,
	"facts" jsonb NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"created_by" uuid,
	CONSTRAINT "quiz_version_quizId_number_unique" UNIQUE("quiz_id","number")
);
--> statement-breakpoint
CREATE TABLE "record" (
	"id" uuid PRIMARY KEY NOT NULL,
	"at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"actor_id" uuid,
	"action" text NOT NULL,
	"subject" text NOT NULL,
	"subject_id" uuid NOT NULL,
	"details" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "answer" ADD CONSTRAINT "answer_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempt" ADD CONSTRAINT "attempt_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempt" ADD CONSTRAINT "attempt_version_id_quiz_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."quiz_version"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempt" ADD CONSTRAINT "attempt_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mark" ADD CONSTRAINT "mark_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mark" ADD CONSTRAINT "mark_marked_by_person_id_fk" FOREIGN KEY ("marked_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slip" ADD CONSTRAINT "slip_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "enrolment" ADD CONSTRAINT "enrolment_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "enrolment" ADD CONSTRAINT "enrolment_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "adjustment" ADD CONSTRAINT "adjustment_item_id_gradebook_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."gradebook_item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "adjustment" ADD CONSTRAINT "adjustment_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "adjustment" ADD CONSTRAINT "adjustment_set_by_person_id_fk" FOREIGN KEY ("set_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "gradebook_category" ADD CONSTRAINT "gradebook_category_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "gradebook_item" ADD CONSTRAINT "gradebook_item_category_id_gradebook_category_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."gradebook_category"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "gradebook_item" ADD CONSTRAINT "gradebook_item_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notice" ADD CONSTRAINT "notice_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notice" ADD CONSTRAINT "notice_author_id_person_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allowance" ADD CONSTRAINT "allowance_granted_by_person_id_fk" FOREIGN KEY ("granted_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "quiz" ADD CONSTRAINT "quiz_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "quiz" ADD CONSTRAINT "quiz_instructor_id_person_id_fk" FOREIGN KEY ("instructor_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "quiz_version" ADD CONSTRAINT "quiz_version_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "quiz_version" ADD CONSTRAINT "quiz_version_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "one_running_attempt" ON "attempt" USING btree ("quiz_id","person_id") WHERE "attempt"."handed_in_at" is null;--> statement-breakpoint
CREATE INDEX "running_deadlines" ON "attempt" USING btree ("deadline") WHERE "attempt"."handed_in_at" is null;--> statement-breakpoint
CREATE INDEX "attempt_person_id_index" ON "attempt" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "enrolment_course_id_role_index" ON "enrolment" USING btree ("course_id","role");--> statement-breakpoint
CREATE INDEX "gradebook_category_course_id_index" ON "gradebook_category" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "gradebook_item_category_id_index" ON "gradebook_item" USING btree ("category_id");--> statement-breakpoint
CREATE INDEX "notice_course_id_index" ON "notice" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "account_person_id_index" ON "account" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "session_person_id_index" ON "session" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "verification_identifier_index" ON "verification" USING btree ("identifier");--> statement-breakpoint
CREATE INDEX "quiz_course_id_index" ON "quiz" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "record_subject_id_index" ON "record" USING btree ("subject_id");