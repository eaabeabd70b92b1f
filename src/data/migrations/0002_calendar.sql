ALTER TABLE "person" ADD COLUMN "calendar_key" text;--> statement-breakpoint
ALTER TABLE "person" ADD CONSTRAINT "person_calendarKey_unique" UNIQUE("calendar_key");