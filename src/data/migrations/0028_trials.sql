CREATE TABLE "check_link" (
	"id" uuid PRIMARY KEY NOT NULL,
	"draft_id" uuid NOT NULL,
	"secret_hash" text NOT NULL,
	"for_whom" text NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"ends_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "check_link_secretHash_unique" UNIQUE("secret_hash")
);
--> statement-breakpoint
CREATE TABLE "trial" (
	"id" uuid PRIMARY KEY NOT NULL,
	"draft_id" uuid NOT NULL,
	"course_id" uuid NOT NULL,
	"quiz_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"by_id" uuid,
	"link_id" uuid,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"ends_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "trial_personId_unique" UNIQUE("person_id")
);
--> statement-breakpoint
ALTER TABLE "check_link" ADD CONSTRAINT "check_link_draft_id_draft_id_fk" FOREIGN KEY ("draft_id") REFERENCES "public"."draft"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "check_link" ADD CONSTRAINT "check_link_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_draft_id_draft_id_fk" FOREIGN KEY ("draft_id") REFERENCES "public"."draft"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_course_id_course_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."course"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial" ADD CONSTRAINT "trial_link_id_check_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."check_link"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "check_link_draft_id_index" ON "check_link" USING btree ("draft_id");--> statement-breakpoint
CREATE INDEX "trial_draft_id_index" ON "trial" USING btree ("draft_id");--> statement-breakpoint
CREATE INDEX "trial_ends_at_index" ON "trial" USING btree ("ends_at");