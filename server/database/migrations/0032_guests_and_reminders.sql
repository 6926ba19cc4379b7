CREATE TABLE "list_requests" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"address" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "list_requests_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "unreminded" (
	"workspace_id" uuid NOT NULL,
	"address" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "unreminded_workspace_id_address_pk" PRIMARY KEY("workspace_id","address")
);
--> statement-breakpoint
ALTER TABLE "changes" ADD COLUMN "guests" jsonb;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "reminder" text;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "reminds_of" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "calendar_links" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "list_requests" ADD CONSTRAINT "list_requests_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unreminded" ADD CONSTRAINT "unreminded_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bookings_client" ON "bookings" USING btree ("workspace_id",lower("client_email"));--> statement-breakpoint
CREATE INDEX "sessions_start" ON "sessions" USING btree ("starts_at") WHERE not "sessions"."cancelled";--> statement-breakpoint
CREATE UNIQUE INDEX "deliveries_reminder_unique" ON "deliveries" USING btree ("workspace_id","booking_id","channel","address","reminder","reminds_of") WHERE "deliveries"."reminder" is not null;--> statement-breakpoint
UPDATE "event_types" SET "settings" = '{"reminders": [{"kind": "before", "minutes": 1440}, {"kind": "before", "minutes": 60}]}'::jsonb || "settings";
