CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE INDEX "bookings_search" ON "bookings" USING gin (lower("client_name" || ' ' || "client_email") gin_trgm_ops);