CREATE TABLE "session_entries" (
	"workspace_id" uuid NOT NULL,
	"session_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"calendar_id" uuid NOT NULL,
	"href" text NOT NULL,
	"etag" text,
	"hash" text,
	"written_at" timestamp with time zone,
	"attempts" integer DEFAULT 0 NOT NULL,
	"fault" jsonb,
	"noticed" text,
	"noticed_start" timestamp with time zone,
	"noticed_end" timestamp with time zone,
	CONSTRAINT "session_entries_workspace_id_session_id_host_id_calendar_id_pk" PRIMARY KEY("workspace_id","session_id","host_id","calendar_id")
);
--> statement-breakpoint
ALTER TABLE "session_entries" ADD CONSTRAINT "session_entries_workspace_id_session_id_sessions_workspace_id_id_fk" FOREIGN KEY ("workspace_id","session_id") REFERENCES "public"."sessions"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session_entries" ADD CONSTRAINT "session_entries_workspace_id_calendar_id_calendars_workspace_id_id_fk" FOREIGN KEY ("workspace_id","calendar_id") REFERENCES "public"."calendars"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "session_entries_calendar" ON "session_entries" USING btree ("workspace_id","calendar_id");--> statement-breakpoint
CREATE INDEX "session_entries_noticed" ON "session_entries" USING btree ("workspace_id") WHERE "session_entries"."noticed" is not null;