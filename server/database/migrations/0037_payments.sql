CREATE TABLE "payment_accounts" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"service" text NOT NULL,
	"label" text NOT NULL,
	"sealed_credentials" text NOT NULL,
	"connected_at" timestamp with time zone NOT NULL,
	"disconnected_at" timestamp with time zone,
	CONSTRAINT "payment_accounts_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "payments" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"booking_id" uuid NOT NULL,
	"state" text NOT NULL,
	"price" jsonb NOT NULL,
	"amount" integer NOT NULL,
	"currency" text NOT NULL,
	"account_id" uuid,
	"opened_at" timestamp with time zone,
	"paid_amount" integer DEFAULT 0 NOT NULL,
	"paid_at" timestamp with time zone,
	"is_late" boolean DEFAULT false NOT NULL,
	"refund_amount" integer DEFAULT 0 NOT NULL,
	"refunded_amount" integer DEFAULT 0 NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"fault" jsonb,
	"next_try_at" timestamp with time zone,
	CONSTRAINT "payments_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "payments_amounts" CHECK ("payments"."amount" > 0 and "payments"."refunded_amount" between 0 and "payments"."refund_amount" and "payments"."refund_amount" <= "payments"."paid_amount")
);
--> statement-breakpoint
DROP INDEX "bookings_expiring";--> statement-breakpoint
ALTER TABLE "payment_accounts" ADD CONSTRAINT "payment_accounts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payments" ADD CONSTRAINT "payments_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payments" ADD CONSTRAINT "payments_workspace_id_booking_id_bookings_workspace_id_id_fk" FOREIGN KEY ("workspace_id","booking_id") REFERENCES "public"."bookings"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payments" ADD CONSTRAINT "payments_workspace_id_account_id_payment_accounts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","account_id") REFERENCES "public"."payment_accounts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "payment_accounts_id" ON "payment_accounts" USING btree ("id");--> statement-breakpoint
CREATE UNIQUE INDEX "payment_accounts_connected" ON "payment_accounts" USING btree ("workspace_id") WHERE "payment_accounts"."disconnected_at" is null;--> statement-breakpoint
CREATE INDEX "payments_id" ON "payments" USING btree ("id");--> statement-breakpoint
CREATE UNIQUE INDEX "payments_booking" ON "payments" USING btree ("workspace_id","booking_id");--> statement-breakpoint
CREATE INDEX "payments_refunding" ON "payments" USING btree ("workspace_id") WHERE "payments"."refunded_amount" < "payments"."refund_amount";--> statement-breakpoint
CREATE INDEX "bookings_expiring" ON "bookings" USING btree ("expires_at") WHERE "bookings"."state" in ('held', 'awaitingApproval');--> statement-breakpoint
UPDATE "event_types" SET "settings" = '{"price": null}'::jsonb || "settings";--> statement-breakpoint
-- What cannot be paid for is not offered.
CREATE TRIGGER "payment_accounts_stamp" AFTER INSERT OR UPDATE OR DELETE ON "payment_accounts" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();
