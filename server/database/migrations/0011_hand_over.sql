ALTER TABLE "rooms" DROP CONSTRAINT "rooms_session_unique";--> statement-breakpoint
ALTER TABLE "hosts" ADD COLUMN "left_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "reference" uuid DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "replaced_at" timestamp with time zone;--> statement-breakpoint
-- Services know the rooms of the time before by their session.
UPDATE "rooms" SET "reference" = "session_id";--> statement-breakpoint
DROP TRIGGER "hosts_stamp" ON "hosts";--> statement-breakpoint
CREATE TRIGGER "hosts_stamp" AFTER INSERT OR DELETE OR UPDATE OF "name", "email", "time_zone", "member_id", "left_at" ON "hosts" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
CREATE UNIQUE INDEX "rooms_current" ON "rooms" USING btree ("workspace_id","session_id") WHERE "rooms"."replaced_at" is null;--> statement-breakpoint
CREATE INDEX "rooms_session" ON "rooms" USING btree ("workspace_id","session_id");