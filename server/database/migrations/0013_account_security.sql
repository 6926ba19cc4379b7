ALTER TABLE "accounts" ADD COLUMN "sealed_factor" text;--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "second_factor_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "last_code_step" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "recovery_hashes" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "new_email" text;--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "new_email_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "old_confirms" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "new_confirms" boolean DEFAULT false NOT NULL;