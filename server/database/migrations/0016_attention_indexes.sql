CREATE INDEX "bookings_waiting" ON "bookings" USING btree ("workspace_id","session_id") WHERE "bookings"."state" = 'awaitingApproval';--> statement-breakpoint
CREATE INDEX "rooms_failing" ON "rooms" USING btree ("workspace_id","session_id") WHERE "rooms"."state" = 'failing';--> statement-breakpoint
CREATE INDEX "rooms_left" ON "rooms" USING btree ("workspace_id","session_id") WHERE "rooms"."state" = 'making' or "rooms"."last_fault" is not null;--> statement-breakpoint
CREATE INDEX "trail_title_failed" ON "trail" USING btree ("workspace_id","session_id") WHERE "trail"."code" = 'titleFailed';