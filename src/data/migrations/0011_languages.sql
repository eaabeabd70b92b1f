ALTER TABLE "person" ADD COLUMN "language" text;--> statement-breakpoint
ALTER TABLE "person_notice" ALTER COLUMN "text" SET DATA TYPE jsonb USING to_jsonb("text");
