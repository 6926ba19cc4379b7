ALTER TABLE "hosts" ADD COLUMN "fixed_room" jsonb;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "room_ways" jsonb DEFAULT '["own","workspace","pattern","fixed"]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "room_pattern" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "way" text;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "way_host_id" uuid;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "way_key" text;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "given_up" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "waits_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "tried_since" timestamp with time zone;--> statement-breakpoint
UPDATE "rooms" SET "way" = CASE WHEN account."host_id" IS NULL THEN 'workspace' ELSE 'own' END, "way_host_id" = account."host_id", "way_key" = 'account ' || account."id", "tried_since" = "asked_at"
FROM "video_accounts" AS account WHERE account."workspace_id" = "rooms"."workspace_id" AND account."id" = "rooms"."account_id";
