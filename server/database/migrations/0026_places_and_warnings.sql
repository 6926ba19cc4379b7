ALTER TABLE "bookings" ADD COLUMN "place_suggestion" text;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "warnings" integer DEFAULT 0 NOT NULL;