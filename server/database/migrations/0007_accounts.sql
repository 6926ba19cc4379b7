CREATE TABLE "accounts" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"email" text NOT NULL,
	"password_hash" text NOT NULL,
	"confirmed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "accounts_email_lower" CHECK ("accounts"."email" = lower("accounts"."email"))
);
--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "account_id" uuid;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "invited_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "invited_by" text;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "invited_to_host" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "entered_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "withdrawn_at" timestamp with time zone;--> statement-breakpoint
CREATE UNIQUE INDEX "accounts_email_confirmed" ON "accounts" USING btree ("email") WHERE "accounts"."confirmed_at" is not null;--> statement-breakpoint
CREATE INDEX "accounts_email" ON "accounts" USING btree ("email");--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_account_id_accounts_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."accounts"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "members_account" ON "members" USING btree ("workspace_id","account_id");--> statement-breakpoint
CREATE UNIQUE INDEX "members_address" ON "members" USING btree ("workspace_id","email") WHERE "members"."withdrawn_at" is null;--> statement-breakpoint
CREATE INDEX "members_of_account" ON "members" USING btree ("account_id");--> statement-breakpoint
INSERT INTO "accounts" ("id", "email", "password_hash", "confirmed_at") SELECT "id", "email", "password_hash", "confirmed_at" FROM "members";--> statement-breakpoint
UPDATE "members" SET "account_id" = "id";
