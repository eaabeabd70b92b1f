CREATE TABLE "open_desk" (
	"stream" uuid PRIMARY KEY NOT NULL,
	"attempt_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"seen_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "setting_change" (
	"id" uuid PRIMARY KEY NOT NULL,
	"quiz_id" uuid NOT NULL,
	"before" jsonb NOT NULL,
	"after" jsonb NOT NULL,
	"reason" text NOT NULL,
	"changed_by" uuid NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "server_key" (
	"number" smallint PRIMARY KEY NOT NULL,
	"secret" "bytea" NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
INSERT INTO "server_key" ("number", "secret") VALUES (2, decode(replace(gen_random_uuid()::text || gen_random_uuid()::text || gen_random_uuid()::text, '-', ''), 'hex'));--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "naming" smallint DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "added_ms" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "checked_off" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "late_writing" ADD COLUMN "folded" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "late_writing" ADD COLUMN "ruled_out" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "late_writing" ADD COLUMN "shown" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "mark" ADD COLUMN "added" bigint;--> statement-breakpoint
UPDATE "mark" t SET "added" = r.n FROM (SELECT "attempt_id", "slot", "id", row_number() OVER (ORDER BY "id") AS n FROM "mark") r WHERE t."attempt_id" = r."attempt_id" AND t."slot" = r."slot" AND t."id" = r."id";--> statement-breakpoint
ALTER TABLE "mark" ALTER COLUMN "added" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "mark" ALTER COLUMN "added" ADD GENERATED ALWAYS AS IDENTITY (SEQUENCE NAME "mark_added_seq");--> statement-breakpoint
SELECT setval('mark_added_seq', (SELECT greatest(count(*), 1) FROM "mark"));--> statement-breakpoint
ALTER TABLE "slip" ADD COLUMN "taken_back_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "adjustment" ADD COLUMN "added" bigint;--> statement-breakpoint
UPDATE "adjustment" t SET "added" = r.n FROM (SELECT "item_id", "person_id", "id", row_number() OVER (ORDER BY "id") AS n FROM "adjustment") r WHERE t."item_id" = r."item_id" AND t."person_id" = r."person_id" AND t."id" = r."id";--> statement-breakpoint
ALTER TABLE "adjustment" ALTER COLUMN "added" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "adjustment" ALTER COLUMN "added" ADD GENERATED ALWAYS AS IDENTITY (SEQUENCE NAME "adjustment_added_seq");--> statement-breakpoint
SELECT setval('adjustment_added_seq', (SELECT greatest(count(*), 1) FROM "adjustment"));--> statement-breakpoint
ALTER TABLE "stand_in" ADD COLUMN "declared_in" uuid;--> statement-breakpoint
ALTER TABLE "practice_run" ADD COLUMN "naming" smallint DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "quiz" ADD COLUMN "settings" jsonb;--> statement-breakpoint
UPDATE "quiz" q SET "settings" = (
	SELECT jsonb_object_agg(rule.key, rule.value) FROM jsonb_each(v."content" -> 'rules') rule WHERE rule.key = ANY (array['timeLimit','attempts','counts','closingCutsClock','lateCostPerDay','takeBack','waitBetween','practice','practiseMissed','reveal'])
) FROM "quiz_version" v WHERE v."quiz_id" = q."id" AND v."number" = q."current_version";--> statement-breakpoint
ALTER TABLE "quiz" ALTER COLUMN "settings" SET NOT NULL;--> statement-breakpoint
UPDATE "quiz_version" SET
	"content" = jsonb_set("content", '{rules}', ("content" -> 'rules') - array['timeLimit','attempts','counts','closingCutsClock','lateCostPerDay','takeBack','waitBetween','practice','practiseMissed','reveal']),
	"facts" = jsonb_build_object('questions', "facts" -> 'questions', 'maximum', "facts" -> 'maximum');--> statement-breakpoint
ALTER TABLE "open_desk" ADD CONSTRAINT "open_desk_attempt_id_attempt_id_fk" FOREIGN KEY ("attempt_id") REFERENCES "public"."attempt"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setting_change" ADD CONSTRAINT "setting_change_quiz_id_quiz_id_fk" FOREIGN KEY ("quiz_id") REFERENCES "public"."quiz"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "setting_change" ADD CONSTRAINT "setting_change_changed_by_person_id_fk" FOREIGN KEY ("changed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "open_desk_attempt_id_index" ON "open_desk" USING btree ("attempt_id");--> statement-breakpoint
CREATE INDEX "open_desk_seen_at_index" ON "open_desk" USING btree ("seen_at");--> statement-breakpoint
CREATE INDEX "setting_change_quiz_id_index" ON "setting_change" USING btree ("quiz_id");