DROP INDEX "members_email_confirmed";--> statement-breakpoint
DROP INDEX "members_email";--> statement-breakpoint
ALTER TABLE "members" DROP COLUMN "password_hash";--> statement-breakpoint
ALTER TABLE "members" DROP COLUMN "confirmed_at";