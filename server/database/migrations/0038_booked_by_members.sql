ALTER TABLE "changes" ADD COLUMN "told" jsonb;--> statement-breakpoint
ALTER TABLE "event_types" ADD COLUMN "one_off" boolean DEFAULT false NOT NULL;