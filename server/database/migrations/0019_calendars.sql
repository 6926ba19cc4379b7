CREATE TABLE "calendar_accounts" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"host_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"label" text NOT NULL,
	"sealed_access" text,
	"addresses" text[] DEFAULT '{}' NOT NULL,
	"state" text DEFAULT 'connected' NOT NULL,
	"fault" jsonb,
	"looked_at" timestamp with time zone,
	"failing_since" timestamp with time zone,
	"failures" integer DEFAULT 0 NOT NULL,
	"next_look_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "calendar_accounts_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "calendar_objects" (
	"workspace_id" uuid NOT NULL,
	"calendar_id" uuid NOT NULL,
	"href" text NOT NULL,
	"etag" text NOT NULL,
	"text" text NOT NULL,
	"entries" integer NOT NULL,
	"unread" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"goes_on" boolean NOT NULL,
	CONSTRAINT "calendar_objects_workspace_id_calendar_id_href_pk" PRIMARY KEY("workspace_id","calendar_id","href")
);
--> statement-breakpoint
CREATE TABLE "calendars" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"href" text NOT NULL,
	"name" text NOT NULL,
	"writable" boolean NOT NULL,
	"blocks" boolean DEFAULT true NOT NULL,
	"receives" boolean DEFAULT false NOT NULL,
	"counts_all_day" boolean DEFAULT true NOT NULL,
	"counts_unconfirmed" boolean DEFAULT true NOT NULL,
	"time_zone" text,
	"own_time_zone" text,
	"sync_state" text,
	"is_gone" boolean DEFAULT false NOT NULL,
	"entries" integer DEFAULT 0 NOT NULL,
	"unread" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"looked_at" timestamp with time zone,
	"reaches_to" timestamp with time zone,
	CONSTRAINT "calendars_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "calendars_receiving_writable" CHECK ("calendars"."writable" or not "calendars"."receives")
);
--> statement-breakpoint
CREATE TABLE "taken_times" (
	"workspace_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"calendar_id" uuid NOT NULL,
	"href" text NOT NULL,
	"during" "tstzmultirange" NOT NULL,
	"is_whole_day" boolean NOT NULL,
	"is_unconfirmed" boolean NOT NULL,
	"uid" text NOT NULL,
	"session_id" uuid GENERATED ALWAYS AS (case when uid ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}@' then left(uid, 36)::uuid end) STORED,
	"title" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "calendar_accounts" ADD CONSTRAINT "calendar_accounts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_accounts" ADD CONSTRAINT "calendar_accounts_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_objects" ADD CONSTRAINT "calendar_objects_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_objects" ADD CONSTRAINT "calendar_objects_workspace_id_calendar_id_calendars_workspace_id_id_fk" FOREIGN KEY ("workspace_id","calendar_id") REFERENCES "public"."calendars"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendars" ADD CONSTRAINT "calendars_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendars" ADD CONSTRAINT "calendars_workspace_id_account_id_calendar_accounts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","account_id") REFERENCES "public"."calendar_accounts"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendars" ADD CONSTRAINT "calendars_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "taken_times" ADD CONSTRAINT "taken_times_workspace_id_calendar_id_href_calendar_objects_workspace_id_calendar_id_href_fk" FOREIGN KEY ("workspace_id","calendar_id","href") REFERENCES "public"."calendar_objects"("workspace_id","calendar_id","href") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "calendar_accounts_host" ON "calendar_accounts" USING btree ("workspace_id","host_id");--> statement-breakpoint
CREATE INDEX "calendar_accounts_due" ON "calendar_accounts" USING btree ("next_look_at");--> statement-breakpoint
CREATE UNIQUE INDEX "calendars_href" ON "calendars" USING btree ("workspace_id","account_id","href");--> statement-breakpoint
CREATE INDEX "calendars_host" ON "calendars" USING btree ("workspace_id","host_id");--> statement-breakpoint
CREATE UNIQUE INDEX "calendars_receiving" ON "calendars" USING btree ("workspace_id","host_id") WHERE "calendars"."receives";--> statement-breakpoint
CREATE INDEX "taken_times_during" ON "taken_times" USING gist ("workspace_id","host_id","during");--> statement-breakpoint
CREATE INDEX "taken_times_object" ON "taken_times" USING btree ("workspace_id","calendar_id","href");