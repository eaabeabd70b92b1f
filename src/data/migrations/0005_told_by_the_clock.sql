ALTER TABLE "quiz" ADD COLUMN "shown_told" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "quiz" ADD COLUMN "tells_shown_from" timestamp (3) with time zone DEFAULT now() NOT NULL;