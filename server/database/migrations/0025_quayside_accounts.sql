CREATE TABLE "video_users" (
	"workspace_id" uuid NOT NULL,
	"account_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"external_id" text NOT NULL,
	"is_main" boolean NOT NULL,
	"invited_until" timestamp with time zone,
	CONSTRAINT "video_users_workspace_id_account_id_host_id_pk" PRIMARY KEY("workspace_id","account_id","host_id")
);
--> statement-breakpoint
ALTER TABLE "hosts" ADD COLUMN "video_email" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "user_id" text;--> statement-breakpoint
ALTER TABLE "rooms" ADD COLUMN "waits_for" uuid;--> statement-breakpoint
ALTER TABLE "video_accounts" ADD COLUMN "refusal" jsonb;--> statement-breakpoint
ALTER TABLE "video_accounts" ADD COLUMN "refused_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "video_accounts" ADD COLUMN "probe_room_id" uuid;--> statement-breakpoint
ALTER TABLE "video_accounts" ADD COLUMN "plan" jsonb;--> statement-breakpoint
ALTER TABLE "video_accounts" ADD COLUMN "looked_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "video_users" ADD CONSTRAINT "video_users_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "video_users" ADD CONSTRAINT "video_users_workspace_id_account_id_video_accounts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","account_id") REFERENCES "public"."video_accounts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "video_users" ADD CONSTRAINT "video_users_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;