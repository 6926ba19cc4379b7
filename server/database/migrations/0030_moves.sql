ALTER TABLE "bookings" ADD COLUMN "expires_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "changes" ADD COLUMN "move" jsonb;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "session_id" uuid;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_workspace_id_session_id_sessions_workspace_id_id_fk" FOREIGN KEY ("workspace_id","session_id") REFERENCES "public"."sessions"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bookings_expiring" ON "bookings" USING btree ("expires_at") WHERE "bookings"."state" = 'awaitingApproval';--> statement-breakpoint
UPDATE "event_types" SET "settings" = '{"approvalHours": null, "clientTerms": {"moveUntilMinutes": 0, "cancelUntilMinutes": 0}}'::jsonb || "settings";--> statement-breakpoint
UPDATE "bookings" SET "expires_at" = "sessions"."starts_at" FROM "sessions"
WHERE "sessions"."workspace_id" = "bookings"."workspace_id" AND "sessions"."id" = "bookings"."session_id"
	AND "bookings"."state" = 'awaitingApproval' AND "sessions"."starts_at" > now();
