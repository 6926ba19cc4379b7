CREATE TABLE "changes" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"kind" text NOT NULL,
	"session_id" uuid,
	"booking_id" uuid,
	"member_id" uuid,
	"actor_kind" text NOT NULL,
	"actor_name" text NOT NULL,
	"from_state" text,
	"to_state" text,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "changes_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "changes_subject" CHECK (num_nonnulls("changes"."session_id", "changes"."member_id") = 1)
);
--> statement-breakpoint
ALTER TABLE "deliveries" DROP CONSTRAINT "deliveries_cause_unique";--> statement-breakpoint
ALTER TABLE "deliveries" ALTER COLUMN "fault" SET DATA TYPE jsonb USING CASE WHEN "fault" IS NOT NULL THEN jsonb_build_object('code', 'sentence', 'text', "fault") END;--> statement-breakpoint
ALTER TABLE "rooms" ALTER COLUMN "last_fault" SET DATA TYPE jsonb USING CASE WHEN "last_fault" IS NOT NULL THEN jsonb_build_object('by', NULL, 'fault', jsonb_build_object('code', 'sentence', 'text', "last_fault")) END;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "question" jsonb;--> statement-breakpoint
-- What was answered before is shown in the words it was stored with.
UPDATE "answers" SET "question" = jsonb_build_object('kind', 'paragraph', 'label', "label"), "value" = to_jsonb("words");--> statement-breakpoint
ALTER TABLE "answers" ALTER COLUMN "question" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "sequence" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "change_id" uuid;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "channel" text DEFAULT 'mail' NOT NULL;--> statement-breakpoint
ALTER TABLE "hours_plans" ADD COLUMN "is_default" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "hours_plans" SET "is_default" = true WHERE ("workspace_id", "id") IN (SELECT DISTINCT ON ("workspace_id", "host_id") "workspace_id", "id" FROM "hours_plans" ORDER BY "workspace_id", "host_id", "name", "id");--> statement-breakpoint
ALTER TABLE "changes" ADD CONSTRAINT "changes_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "changes" ADD CONSTRAINT "changes_workspace_id_session_id_sessions_workspace_id_id_fk" FOREIGN KEY ("workspace_id","session_id") REFERENCES "public"."sessions"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "changes" ADD CONSTRAINT "changes_workspace_id_booking_id_bookings_workspace_id_id_fk" FOREIGN KEY ("workspace_id","booking_id") REFERENCES "public"."bookings"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "changes" ADD CONSTRAINT "changes_workspace_id_member_id_members_workspace_id_id_fk" FOREIGN KEY ("workspace_id","member_id") REFERENCES "public"."members"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "changes_session" ON "changes" USING btree ("workspace_id","session_id","at");--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_workspace_id_change_id_changes_workspace_id_id_fk" FOREIGN KEY ("workspace_id","change_id") REFERENCES "public"."changes"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "deliveries_booking" ON "deliveries" USING btree ("workspace_id","booking_id");--> statement-breakpoint
CREATE UNIQUE INDEX "hours_plans_default" ON "hours_plans" USING btree ("workspace_id","host_id") WHERE "hours_plans"."is_default";--> statement-breakpoint
ALTER TABLE "answers" DROP COLUMN "label";--> statement-breakpoint
ALTER TABLE "answers" DROP COLUMN "words";--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_cause_unique" UNIQUE("workspace_id","change_id","booking_id","occasion","channel","address");