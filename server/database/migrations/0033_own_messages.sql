CREATE TABLE "message_texts" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"event_type_id" uuid,
	"occasion" text NOT NULL,
	"audience" text NOT NULL,
	"own_id" uuid,
	"version" integer NOT NULL,
	"wording" jsonb,
	"at" timestamp with time zone NOT NULL,
	"member_name" text NOT NULL,
	CONSTRAINT "message_texts_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "message_texts_version" UNIQUE NULLS NOT DISTINCT("workspace_id","event_type_id","occasion","audience","own_id","version")
);
--> statement-breakpoint
CREATE TABLE "own_messages" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"event_type_id" uuid,
	"definition" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"removed_at" timestamp with time zone,
	CONSTRAINT "own_messages_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "own_id" uuid;--> statement-breakpoint
ALTER TABLE "message_texts" ADD CONSTRAINT "message_texts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "message_texts" ADD CONSTRAINT "message_texts_workspace_id_event_type_id_event_types_workspace_id_id_fk" FOREIGN KEY ("workspace_id","event_type_id") REFERENCES "public"."event_types"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "message_texts" ADD CONSTRAINT "message_texts_workspace_id_own_id_own_messages_workspace_id_id_fk" FOREIGN KEY ("workspace_id","own_id") REFERENCES "public"."own_messages"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_messages" ADD CONSTRAINT "own_messages_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_messages" ADD CONSTRAINT "own_messages_workspace_id_event_type_id_event_types_workspace_id_id_fk" FOREIGN KEY ("workspace_id","event_type_id") REFERENCES "public"."event_types"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "changes_at" ON "changes" USING btree ("workspace_id","at");--> statement-breakpoint
CREATE INDEX "deliveries_message" ON "deliveries" USING btree ("message_id");