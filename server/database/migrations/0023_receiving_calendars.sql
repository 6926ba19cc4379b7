CREATE TABLE "receiving_calendars" (
	"workspace_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"event_type_id" uuid NOT NULL,
	"calendar_id" uuid NOT NULL,
	CONSTRAINT "receiving_calendars_workspace_id_host_id_event_type_id_pk" PRIMARY KEY("workspace_id","host_id","event_type_id")
);
--> statement-breakpoint
ALTER TABLE "receiving_calendars" ADD CONSTRAINT "receiving_calendars_workspace_id_event_type_id_event_types_workspace_id_id_fk" FOREIGN KEY ("workspace_id","event_type_id") REFERENCES "public"."event_types"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "receiving_calendars" ADD CONSTRAINT "receiving_calendars_workspace_id_calendar_id_calendars_workspace_id_id_fk" FOREIGN KEY ("workspace_id","calendar_id") REFERENCES "public"."calendars"("workspace_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "receiving_calendars_calendar" ON "receiving_calendars" USING btree ("workspace_id","calendar_id");