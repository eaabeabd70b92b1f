DROP INDEX "margin_note_attempt_id_index";--> statement-breakpoint
ALTER TABLE "margin_note" DROP CONSTRAINT "margin_note_pkey";--> statement-breakpoint
ALTER TABLE "margin_note" ADD CONSTRAINT "margin_note_attempt_id_id_pk" PRIMARY KEY("attempt_id","id");
