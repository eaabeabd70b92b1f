CREATE TABLE "known_device" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"secret_hash" text NOT NULL,
	"used_at" timestamp (3) with time zone NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "known_device_personId_secretHash_unique" UNIQUE("person_id","secret_hash")
);
--> statement-breakpoint
CREATE TABLE "second_factor" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"secret" text NOT NULL,
	"backup_codes" text NOT NULL,
	"verified" boolean DEFAULT false NOT NULL,
	"failed_verification_count" integer DEFAULT 0 NOT NULL,
	"locked_until" timestamp (3) with time zone,
	CONSTRAINT "second_factor_person_id_unique" UNIQUE("person_id")
);
--> statement-breakpoint
CREATE TABLE "try_pace" (
	"who" text PRIMARY KEY NOT NULL,
	"paid_until" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "two_factor_enabled" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "known_device" ADD CONSTRAINT "known_device_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "second_factor" ADD CONSTRAINT "second_factor_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;