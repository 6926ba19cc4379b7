CREATE TABLE "event_type_addresses" (
	"workspace_id" uuid NOT NULL,
	"slug" text NOT NULL,
	"event_type_id" uuid NOT NULL,
	CONSTRAINT "event_type_addresses_workspace_id_slug_pk" PRIMARY KEY("workspace_id","slug")
);
--> statement-breakpoint
CREATE TABLE "event_type_drafts" (
	"workspace_id" uuid NOT NULL,
	"event_type_id" uuid NOT NULL,
	"member_id" uuid NOT NULL,
	"based_on" integer NOT NULL,
	"definition" jsonb NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	CONSTRAINT "event_type_drafts_workspace_id_event_type_id_member_id_pk" PRIMARY KEY("workspace_id","event_type_id","member_id")
);
--> statement-breakpoint
CREATE TABLE "event_type_versions" (
	"workspace_id" uuid NOT NULL,
	"event_type_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"definition" jsonb NOT NULL,
	"published_by" text NOT NULL,
	"published_at" timestamp with time zone NOT NULL,
	CONSTRAINT "event_type_versions_workspace_id_event_type_id_version_pk" PRIMARY KEY("workspace_id","event_type_id","version")
);
--> statement-breakpoint
ALTER TABLE "chairs" DROP CONSTRAINT "chairs_position_unique";--> statement-breakpoint
ALTER TABLE "chairs" ADD COLUMN "active" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "event_types" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "hours_plans" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "event_type_addresses" ADD CONSTRAINT "event_type_addresses_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_type_addresses" ADD CONSTRAINT "event_type_addresses_workspace_id_event_type_id_event_types_workspace_id_id_fk" FOREIGN KEY ("workspace_id","event_type_id") REFERENCES "public"."event_types"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_type_drafts" ADD CONSTRAINT "event_type_drafts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_type_drafts" ADD CONSTRAINT "event_type_drafts_workspace_id_event_type_id_event_types_workspace_id_id_fk" FOREIGN KEY ("workspace_id","event_type_id") REFERENCES "public"."event_types"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_type_drafts" ADD CONSTRAINT "event_type_drafts_workspace_id_member_id_members_workspace_id_id_fk" FOREIGN KEY ("workspace_id","member_id") REFERENCES "public"."members"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_type_versions" ADD CONSTRAINT "event_type_versions_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_type_versions" ADD CONSTRAINT "event_type_versions_workspace_id_event_type_id_event_types_workspace_id_id_fk" FOREIGN KEY ("workspace_id","event_type_id") REFERENCES "public"."event_types"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "chairs_place" ON "chairs" USING btree ("workspace_id","event_type_id","position") WHERE "chairs"."active";--> statement-breakpoint
UPDATE "hours_plans" SET "plan" = "plan" || '{"holidays": []}'::jsonb;--> statement-breakpoint
UPDATE "event_types" SET "settings" = jsonb_set("settings", '{hours,plan,holidays}', '[]'::jsonb) WHERE "settings" #> '{hours,plan}' IS NOT NULL;--> statement-breakpoint
INSERT INTO "event_type_versions" ("workspace_id", "event_type_id", "version", "definition", "published_by", "published_at")
SELECT t."workspace_id", t."id", t."version", jsonb_build_object(
	'slug', t."slug", 'listed', t."listed", 'state', t."state", 'settings', t."settings",
	'chairs', (
		SELECT jsonb_agg(jsonb_build_object('id', c."id", 'name', c."name", 'policy', c."policy", 'hosts', (
			SELECT jsonb_agg(jsonb_build_object('id', p."host_id", 'name', h."name", 'weight', p."weight") ORDER BY p."position")
			FROM "chair_hosts" p JOIN "hosts" h ON h."workspace_id" = p."workspace_id" AND h."id" = p."host_id"
			WHERE p."workspace_id" = c."workspace_id" AND p."chair_id" = c."id"
		)) ORDER BY c."position")
		FROM "chairs" c WHERE c."workspace_id" = t."workspace_id" AND c."event_type_id" = t."id"
	)
), 'before the first record', t."updated_at"
FROM "event_types" t;
