ALTER TABLE "workspaces" ADD COLUMN "quiet_hours" jsonb DEFAULT '{"from":"21:00","to":"08:00"}'::jsonb;--> statement-breakpoint
UPDATE "own_messages" SET "definition" = "definition" || '{"by":"mail"}';--> statement-breakpoint
-- Whether clients get texts stands on their pages.
CREATE TRIGGER "own_messages_stamp" AFTER INSERT OR UPDATE OR DELETE ON "own_messages" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();
