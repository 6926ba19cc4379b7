ALTER TABLE "session_hosts" DROP COLUMN "reason";--> statement-breakpoint
ALTER TABLE "chair_hosts" DROP COLUMN "credit";--> statement-breakpoint
ALTER TABLE "chair_hosts" DROP COLUMN "assigned_at";