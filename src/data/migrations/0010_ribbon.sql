ALTER TABLE "answer" RENAME COLUMN "folded" TO "ribbon";--> statement-breakpoint
ALTER TABLE "answer_log" RENAME COLUMN "folded" TO "ribbon";--> statement-breakpoint
ALTER TABLE "late_writing" RENAME COLUMN "folded" TO "ribbon";--> statement-breakpoint
ALTER TABLE "open_desk" ADD COLUMN "device" uuid;--> statement-breakpoint
ALTER TABLE "answer_check" ADD COLUMN "part" smallint;--> statement-breakpoint
ALTER TABLE "quiz" ADD COLUMN "opening_told" timestamp (3) with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "slip" ADD COLUMN "in_part" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "paper_read_at" timestamp (3) with time zone;--> statement-breakpoint
UPDATE "quiz_version" SET "content" = jsonb_set("content", '{rules}',
	("content" -> 'rules') - 'fold' || jsonb_build_object('ribbon', "content" -> 'rules' -> 'fold'))
WHERE "content" -> 'rules' ? 'fold';
