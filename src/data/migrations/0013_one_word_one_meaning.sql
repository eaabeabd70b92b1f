ALTER TABLE "desk_notice" RENAME TO "desk_message";--> statement-breakpoint
ALTER TABLE "desk_message" RENAME CONSTRAINT "desk_notice_pkey" TO "desk_message_pkey";--> statement-breakpoint
ALTER TABLE "desk_message" RENAME CONSTRAINT "desk_notice_quiz_id_quiz_id_fk" TO "desk_message_quiz_id_quiz_id_fk";--> statement-breakpoint
ALTER TABLE "desk_message" RENAME CONSTRAINT "desk_notice_author_id_person_id_fk" TO "desk_message_author_id_person_id_fk";--> statement-breakpoint
ALTER INDEX "desk_notice_quiz_id_index" RENAME TO "desk_message_quiz_id_index";--> statement-breakpoint
ALTER TABLE "notice" RENAME TO "announcement";--> statement-breakpoint
ALTER TABLE "announcement" RENAME CONSTRAINT "notice_pkey" TO "announcement_pkey";--> statement-breakpoint
ALTER TABLE "announcement" RENAME CONSTRAINT "notice_course_id_course_id_fk" TO "announcement_course_id_course_id_fk";--> statement-breakpoint
ALTER TABLE "announcement" RENAME CONSTRAINT "notice_author_id_person_id_fk" TO "announcement_author_id_person_id_fk";--> statement-breakpoint
ALTER INDEX "notice_course_id_index" RENAME TO "announcement_course_id_index";--> statement-breakpoint
ALTER TYPE "plan_entry_kind" RENAME VALUE 'notice' TO 'note';--> statement-breakpoint
UPDATE "quiz_version" SET "content" = jsonb_set("content" #- '{rules,notices}', '{rules,timeWarnings}', "content" #> '{rules,notices}')
  WHERE "content" #> '{rules,notices}' IS NOT NULL;--> statement-breakpoint
UPDATE "quiz_version" SET "content" = replace("content"::text, '"typingSlip":', '"typingMistake":')::jsonb
  WHERE "content"::text LIKE '%"typingSlip":%';;--> statement-breakpoint
ALTER TABLE "house_mail" RENAME TO "mailbox_mail";--> statement-breakpoint
ALTER TABLE "mailbox_mail" RENAME CONSTRAINT "house_mail_pkey" TO "mailbox_mail_pkey";--> statement-breakpoint
ALTER INDEX "house_mail_created_at_index" RENAME TO "mailbox_mail_created_at_index";
