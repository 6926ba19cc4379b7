CREATE TABLE "assignments" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"position" bigint GENERATED ALWAYS AS IDENTITY (sequence name "assignments_position_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"pool_id" uuid NOT NULL,
	"session_id" uuid NOT NULL,
	"chair_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"policy" text NOT NULL,
	"code" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"returns" uuid,
	"turns" jsonb NOT NULL,
	CONSTRAINT "assignments_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "assignments_returned_once" UNIQUE("workspace_id","returns"),
	CONSTRAINT "assignments_returns" CHECK (("assignments"."kind" = 'returned') = ("assignments"."returns" is not null))
);
--> statement-breakpoint
CREATE TABLE "chair_groups" (
	"workspace_id" uuid NOT NULL,
	"chair_id" uuid NOT NULL,
	"group_id" uuid NOT NULL,
	"position" integer NOT NULL,
	CONSTRAINT "chair_groups_workspace_id_chair_id_group_id_pk" PRIMARY KEY("workspace_id","chair_id","group_id")
);
--> statement-breakpoint
CREATE TABLE "group_hosts" (
	"workspace_id" uuid NOT NULL,
	"group_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"weight" double precision DEFAULT 1 NOT NULL,
	CONSTRAINT "group_hosts_workspace_id_group_id_host_id_pk" PRIMARY KEY("workspace_id","group_id","host_id")
);
--> statement-breakpoint
CREATE TABLE "host_groups" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "host_groups_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "turns" (
	"workspace_id" uuid NOT NULL,
	"pool_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"credit" double precision NOT NULL,
	"assigned_at" timestamp with time zone,
	CONSTRAINT "turns_workspace_id_pool_id_host_id_pk" PRIMARY KEY("workspace_id","pool_id","host_id")
);
--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "counts_cancelled" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "assignments" ADD CONSTRAINT "assignments_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assignments" ADD CONSTRAINT "assignments_workspace_id_session_id_sessions_workspace_id_id_fk" FOREIGN KEY ("workspace_id","session_id") REFERENCES "public"."sessions"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assignments" ADD CONSTRAINT "assignments_workspace_id_chair_id_chairs_workspace_id_id_fk" FOREIGN KEY ("workspace_id","chair_id") REFERENCES "public"."chairs"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assignments" ADD CONSTRAINT "assignments_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chair_groups" ADD CONSTRAINT "chair_groups_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chair_groups" ADD CONSTRAINT "chair_groups_workspace_id_chair_id_chairs_workspace_id_id_fk" FOREIGN KEY ("workspace_id","chair_id") REFERENCES "public"."chairs"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chair_groups" ADD CONSTRAINT "chair_groups_workspace_id_group_id_host_groups_workspace_id_id_fk" FOREIGN KEY ("workspace_id","group_id") REFERENCES "public"."host_groups"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_hosts" ADD CONSTRAINT "group_hosts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_hosts" ADD CONSTRAINT "group_hosts_workspace_id_group_id_host_groups_workspace_id_id_fk" FOREIGN KEY ("workspace_id","group_id") REFERENCES "public"."host_groups"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_hosts" ADD CONSTRAINT "group_hosts_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "host_groups" ADD CONSTRAINT "host_groups_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "turns" ADD CONSTRAINT "turns_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "assignments_session" ON "assignments" USING btree ("workspace_id","session_id");--> statement-breakpoint
CREATE INDEX "assignments_pool" ON "assignments" USING btree ("workspace_id","pool_id","at");--> statement-breakpoint
CREATE TRIGGER "host_groups_stamp" AFTER INSERT OR UPDATE OR DELETE ON "host_groups" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
CREATE TRIGGER "group_hosts_stamp" AFTER INSERT OR UPDATE OR DELETE ON "group_hosts" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
CREATE TRIGGER "chair_groups_stamp" AFTER INSERT OR UPDATE OR DELETE ON "chair_groups" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
DROP TRIGGER "workspaces_stamp" ON "workspaces";--> statement-breakpoint
CREATE TRIGGER "workspaces_stamp" BEFORE UPDATE OF "slug", "name", "about", "time_zone", "confirmed_at", "looks", "counts_cancelled" ON "workspaces" FOR EACH ROW EXECUTE FUNCTION "raise_own_stamp"();--> statement-breakpoint
INSERT INTO "turns" ("workspace_id", "pool_id", "host_id", "credit", "assigned_at")
SELECT "workspace_id", "chair_id", "host_id", "credit", "assigned_at" FROM "chair_hosts" WHERE "credit" <> 0 OR "assigned_at" IS NOT NULL;
