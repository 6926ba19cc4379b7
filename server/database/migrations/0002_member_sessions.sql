CREATE TABLE "unopened_mails" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"address_hash" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "member_sessions" (
	"workspace_id" uuid NOT NULL,
	"id_hash" text NOT NULL,
	"member_id" uuid NOT NULL,
	"device" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"last_seen_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	CONSTRAINT "member_sessions_workspace_id_id_hash_pk" PRIMARY KEY("workspace_id","id_hash")
);
--> statement-breakpoint
ALTER TABLE "members" DROP CONSTRAINT "members_email_unique";--> statement-breakpoint
ALTER TABLE "deliveries" ALTER COLUMN "booking_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "bookings" ADD COLUMN "sequence" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "bookings" ADD COLUMN "opened_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "member_id" uuid;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "unknowns" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "next_try_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "confirmed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "confirmed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "asked_at" timestamp with time zone;--> statement-breakpoint
-- Whoever is there already is taken to have confirmed their address.
UPDATE "workspaces" SET "confirmed_at" = "created_at";--> statement-breakpoint
UPDATE "members" SET "confirmed_at" = now();--> statement-breakpoint
-- At least what calendars were given so far, which was twice the session's number, and one more with a link.
UPDATE "bookings" b SET "sequence" = s."sequence" * 2 + 1 FROM "sessions" s WHERE s."workspace_id" = b."workspace_id" AND s."id" = b."session_id";--> statement-breakpoint
ALTER TABLE "member_sessions" ADD CONSTRAINT "member_sessions_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "member_sessions" ADD CONSTRAINT "member_sessions_workspace_id_member_id_members_workspace_id_id_fk" FOREIGN KEY ("workspace_id","member_id") REFERENCES "public"."members"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "unopened_mails_address" ON "unopened_mails" USING btree ("address_hash","at");--> statement-breakpoint
CREATE INDEX "member_sessions_member" ON "member_sessions" USING btree ("workspace_id","member_id");--> statement-breakpoint
CREATE INDEX "member_sessions_expiry" ON "member_sessions" USING btree ("expires_at");--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_workspace_id_member_id_members_workspace_id_id_fk" FOREIGN KEY ("workspace_id","member_id") REFERENCES "public"."members"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "idempotency_keys_created" ON "idempotency_keys" USING btree ("created_at");--> statement-breakpoint
CREATE INDEX "deliveries_open" ON "deliveries" USING btree ("workspace_id","state") WHERE "deliveries"."state" not in ('sent', 'overtaken');--> statement-breakpoint
CREATE UNIQUE INDEX "members_email_confirmed" ON "members" USING btree ("email") WHERE "members"."confirmed_at" is not null;--> statement-breakpoint
CREATE INDEX "members_email" ON "members" USING btree ("email");--> statement-breakpoint
ALTER TABLE "sessions" DROP COLUMN "sequence";--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_subject" CHECK (num_nonnulls("deliveries"."booking_id", "deliveries"."member_id") = 1);