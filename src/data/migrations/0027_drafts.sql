CREATE TABLE "asset" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"type" text NOT NULL,
	"digest" text NOT NULL,
	"aspect" double precision DEFAULT 1 NOT NULL,
	"bytes" "bytea" NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "asset_courseId_digest_unique" UNIQUE("course_id","digest")
);
--> statement-breakpoint
CREATE TABLE "draft" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"quiz_id" uuid,
	"of_version" integer,
	"settings" jsonb,
	"title" text NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"changed_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"changed_by" uuid NOT NULL,
	"assigned_at" timestamp (3) with time zone,
	"removed_at" timestamp (3) with time zone,
	CONSTRAINT "draft_of_quiz" UNIQUE("quiz_id")
);
--> statement-breakpoint
CREATE TABLE "draft_author" (
	"draft_id" uuid NOT NULL,
	"device" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"slot" integer NOT NULL,
	"seen_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "draft_author_draft_id_device_pk" PRIMARY KEY("draft_id","device")
);
--> statement-breakpoint
CREATE TABLE "draft_log" (
	"change" bigint GENERATED ALWAYS AS IDENTITY (sequence name "draft_log_change_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"draft_id" uuid NOT NULL,
	"slot" integer NOT NULL,
	"piece" jsonb NOT NULL,
	"version" integer NOT NULL,
	"device" uuid NOT NULL,
	"revision" bigint NOT NULL,
	"author_id" uuid NOT NULL,
	"saved_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "draft_log_draft_id_slot_device_revision_pk" PRIMARY KEY("draft_id","slot","device","revision")
);
--> statement-breakpoint
CREATE TABLE "draft_piece" (
	"draft_id" uuid NOT NULL,
	"slot" integer NOT NULL,
	"piece" jsonb NOT NULL,
	"version" integer NOT NULL,
	"change" bigint NOT NULL,
	"device" uuid NOT NULL,
	"revision" bigint NOT NULL,
	"author_id" uuid NOT NULL,
	"saved_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "draft_piece_draft_id_slot_pk" PRIMARY KEY("draft_id","slot")
);
--> statement-breakpoint
ALTER TABLE "asset" ADD CONSTRAINT "asset_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "asset" ADD CONSTRAINT "asset_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft" ADD CONSTRAINT "draft_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft" ADD CONSTRAINT "draft_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft" ADD CONSTRAINT "draft_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft" ADD CONSTRAINT "draft_changed_by_person_id_fk" FOREIGN KEY ("changed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_author" ADD CONSTRAINT "draft_author_draft_id_draft_id_fk" FOREIGN KEY ("draft_id") REFERENCES "public"."draft"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_author" ADD CONSTRAINT "draft_author_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_log" ADD CONSTRAINT "draft_log_draft_id_draft_id_fk" FOREIGN KEY ("draft_id") REFERENCES "public"."draft"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_log" ADD CONSTRAINT "draft_log_author_id_person_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_piece" ADD CONSTRAINT "draft_piece_draft_id_draft_id_fk" FOREIGN KEY ("draft_id") REFERENCES "public"."draft"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_piece" ADD CONSTRAINT "draft_piece_author_id_person_id_fk" FOREIGN KEY ("author_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "draft_course_id_index" ON "draft" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "draft_quiz_id_index" ON "draft" USING btree ("quiz_id");--> statement-breakpoint
CREATE INDEX "draft_log_order" ON "draft_log" USING btree ("draft_id","change");