CREATE TABLE "course_section" (
	"id" uuid PRIMARY KEY NOT NULL,
	"course_id" uuid NOT NULL,
	"title" text NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "section_member" (
	"section_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	CONSTRAINT "section_member_section_id_person_id_pk" PRIMARY KEY("section_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "course_section" ADD CONSTRAINT "course_section_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "section_member" ADD CONSTRAINT "section_member_section_id_course_section_id_fk" FOREIGN KEY ("section_id") REFERENCES "public"."course_section"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "section_member" ADD CONSTRAINT "section_member_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "course_section_course_id_index" ON "course_section" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "section_member_person_id_index" ON "section_member" USING btree ("person_id");