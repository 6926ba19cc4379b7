CREATE TABLE "question_sets" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"questions" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "question_sets_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
ALTER TABLE "question_sets" ADD CONSTRAINT "question_sets_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER "question_sets_stamp" AFTER INSERT OR UPDATE OR DELETE ON "question_sets" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();
