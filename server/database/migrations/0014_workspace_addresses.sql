CREATE TABLE "workspace_addresses" (
	"slug" text PRIMARY KEY NOT NULL,
	"workspace_id" uuid NOT NULL
);
--> statement-breakpoint
ALTER TABLE "workspace_addresses" ADD CONSTRAINT "workspace_addresses_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "workspace_addresses_workspace" ON "workspace_addresses" USING btree ("workspace_id");