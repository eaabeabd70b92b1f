CREATE TABLE "gradebook_version" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"plan" jsonb NOT NULL,
	"reason" text NOT NULL,
	"made_by" uuid,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "gradebook_version_courseId_number_unique" UNIQUE("course_id","number")
);
--> statement-breakpoint
ALTER TABLE "adjustment" ADD COLUMN "withdrawn" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "gradebook_version" ADD CONSTRAINT "gradebook_version_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "gradebook_version" ADD CONSTRAINT "gradebook_version_made_by_person_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;