ALTER TABLE "sessions" ADD COLUMN "notes" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "tags" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "notes_version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "sessions_tags" ON "sessions" USING gin ("tags" jsonb_path_ops);