CREATE TABLE "answer_check" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"number" integer NOT NULL,
	"answer" jsonb,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "answer_check_attempt_id_slot_number_pk" PRIMARY KEY("attempt_id","slot","number")
);
--> statement-breakpoint
CREATE TABLE "late_writing" (
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"device" uuid NOT NULL,
	"revision" bigint NOT NULL,
	"answer" jsonb,
	"written_at" timestamp (3) with time zone NOT NULL,
	"arrived_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "late_writing_attempt_id_slot_device_revision_pk" PRIMARY KEY("attempt_id","slot","device","revision")
);
--> statement-breakpoint
CREATE TABLE "desk_notice" (
	"id" uuid PRIMARY KEY NOT NULL,
	"quiz_id" uuid NOT NULL,
	"author_id" uuid NOT NULL,
	"text" text NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "upload" (
	"id" uuid PRIMARY KEY NOT NULL,
	"attempt_id" uuid NOT NULL,
	"slot" smallint NOT NULL,
	"name" text NOT NULL,
	"size" integer NOT NULL,
	"received" integer DEFAULT 0 NOT NULL,
	"type" text,
	"completed_at" timestamp (3) with time zone,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "upload_piece" (
	"upload_id" uuid NOT NULL,
	"at" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "upload_piece_upload_id_at_pk" PRIMARY KEY("upload_id","at")
);
--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "page" smallint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "told" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "quiz" ADD COLUMN "first_quiz_id" uuid;--> statement-breakpoint
ALTER TABLE "quiz" ADD COLUMN "first_at_least" numeric(7, 4);--> statement-breakpoint
ALTER TABLE "answer_check" ADD CONSTRAINT "answer_check_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "late_writing" ADD CONSTRAINT "late_writing_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_notice" ADD CONSTRAINT "desk_notice_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_notice" ADD CONSTRAINT "desk_notice_author_id_person_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload" ADD CONSTRAINT "upload_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload_piece" ADD CONSTRAINT "upload_piece_upload_id_upload_id_fk" FOREIGN KEY ("upload_id") REFERENCES "public"."upload"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "desk_notice_quiz_id_index" ON "desk_notice" USING btree ("quiz_id");--> statement-breakpoint
CREATE INDEX "upload_attempt_id_slot_index" ON "upload" USING btree ("attempt_id","slot");