ALTER TABLE "workspaces" ADD COLUMN "stops_silent" boolean DEFAULT false NOT NULL;--> statement-breakpoint
-- Which hosts have calendars is remembered with the rest of the workspace; looks at them change nothing of that.
CREATE TRIGGER "calendar_accounts_stamp" AFTER INSERT OR DELETE ON "calendar_accounts" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();
