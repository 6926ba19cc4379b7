ALTER TABLE "bookings" ADD COLUMN "people" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "bookings" ADD CONSTRAINT "bookings_people" CHECK ("bookings"."people" >= 1);--> statement-breakpoint
UPDATE "event_types" SET "settings" = '{"mostPeople": 1}'::jsonb || "settings";
