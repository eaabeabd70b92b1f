CREATE TABLE "retention_rule" (
	"id" uuid PRIMARY KEY NOT NULL,
	"years" smallint,
	"decided_by" uuid NOT NULL,
	"holds_from" timestamp (3) with time zone NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "written_removed_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "retention_rule" ADD CONSTRAINT "retention_rule_decided_by_person_id_fk" FOREIGN KEY ("decided_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;