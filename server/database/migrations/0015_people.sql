CREATE TABLE "host_pictures" (
	"workspace_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"large" "bytea" NOT NULL,
	"small" "bytea" NOT NULL,
	CONSTRAINT "host_pictures_workspace_id_host_id_pk" PRIMARY KEY("workspace_id","host_id")
);
--> statement-breakpoint
CREATE TABLE "host_plans" (
	"workspace_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"plan_id" uuid NOT NULL,
	"is_default" boolean DEFAULT false NOT NULL,
	CONSTRAINT "host_plans_workspace_id_host_id_plan_id_pk" PRIMARY KEY("workspace_id","host_id","plan_id")
);
--> statement-breakpoint
DROP INDEX "hours_plans_default";--> statement-breakpoint
ALTER TABLE "hours_plans" ALTER COLUMN "host_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "hosts" ADD COLUMN "about" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "hosts" ADD COLUMN "phone" text;--> statement-breakpoint
ALTER TABLE "hosts" ADD COLUMN "slug" text;--> statement-breakpoint
ALTER TABLE "hosts" ADD COLUMN "picture" text;--> statement-breakpoint
ALTER TABLE "hosts" ADD COLUMN "away" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "hosts" ADD COLUMN "profile_version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "counts_missed" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "host_reach" jsonb DEFAULT '{"sessions":"own","hours":"see"}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "deletion_asked_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "deletion_asked_by" text;--> statement-breakpoint
ALTER TABLE "host_pictures" ADD CONSTRAINT "host_pictures_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "host_pictures" ADD CONSTRAINT "host_pictures_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "host_plans" ADD CONSTRAINT "host_plans_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "host_plans" ADD CONSTRAINT "host_plans_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "host_plans" ADD CONSTRAINT "host_plans_workspace_id_plan_id_hours_plans_workspace_id_id_fk" FOREIGN KEY ("workspace_id","plan_id") REFERENCES "public"."hours_plans"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "host_pictures_hash" ON "host_pictures" USING btree ("hash");--> statement-breakpoint
CREATE INDEX "host_plans_plan" ON "host_plans" USING btree ("workspace_id","plan_id");--> statement-breakpoint
CREATE UNIQUE INDEX "host_plans_default" ON "host_plans" USING btree ("workspace_id","host_id") WHERE "host_plans"."is_default";--> statement-breakpoint
CREATE UNIQUE INDEX "hosts_slug" ON "hosts" USING btree ("workspace_id","slug");--> statement-breakpoint
INSERT INTO "host_plans" ("workspace_id", "host_id", "plan_id", "is_default") SELECT "workspace_id", "host_id", "id", "is_default" FROM "hours_plans";--> statement-breakpoint
ALTER TABLE "hours_plans" DROP COLUMN "is_default";--> statement-breakpoint
CREATE TRIGGER "host_plans_stamp" AFTER INSERT OR UPDATE OR DELETE ON "host_plans" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
DROP TRIGGER "hosts_stamp" ON "hosts";--> statement-breakpoint
CREATE TRIGGER "hosts_stamp" AFTER INSERT OR DELETE OR UPDATE OF "name", "email", "time_zone", "member_id", "left_at", "about", "slug", "picture", "away" ON "hosts" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
DROP TRIGGER "workspaces_stamp" ON "workspaces";--> statement-breakpoint
CREATE TRIGGER "workspaces_stamp" BEFORE UPDATE OF "slug", "name", "about", "time_zone", "confirmed_at", "looks", "counts_cancelled", "deletion_asked_at" ON "workspaces" FOR EACH ROW EXECUTE FUNCTION "raise_own_stamp"();