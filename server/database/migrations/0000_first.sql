CREATE TABLE "answers" (
	"workspace_id" uuid NOT NULL,
	"booking_id" uuid NOT NULL,
	"key" text NOT NULL,
	"position" integer NOT NULL,
	"label" text NOT NULL,
	"value" jsonb NOT NULL,
	"words" text NOT NULL,
	CONSTRAINT "answers_workspace_id_booking_id_key_pk" PRIMARY KEY("workspace_id","booking_id","key")
);
--> statement-breakpoint
CREATE TABLE "bookings" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"session_id" uuid NOT NULL,
	"state" text NOT NULL,
	"client_name" text NOT NULL,
	"client_email" text NOT NULL,
	"client_phone" text,
	"time_zone" text NOT NULL,
	"locale" text NOT NULL,
	"source" text,
	"token_seed" text NOT NULL,
	"token_hash" text NOT NULL,
	"cancel_reason" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"closed_at" timestamp with time zone,
	CONSTRAINT "bookings_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "bookings_token_unique" UNIQUE("workspace_id","token_hash")
);
--> statement-breakpoint
CREATE TABLE "guests" (
	"workspace_id" uuid NOT NULL,
	"booking_id" uuid NOT NULL,
	"email" text NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "guests_workspace_id_booking_id_email_pk" PRIMARY KEY("workspace_id","booking_id","email")
);
--> statement-breakpoint
CREATE TABLE "idempotency_keys" (
	"workspace_id" uuid NOT NULL,
	"key" text NOT NULL,
	"request_hash" text NOT NULL,
	"status" integer NOT NULL,
	"body" json NOT NULL,
	"booking_id" uuid,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "idempotency_keys_workspace_id_key_pk" PRIMARY KEY("workspace_id","key")
);
--> statement-breakpoint
CREATE TABLE "session_hosts" (
	"workspace_id" uuid NOT NULL,
	"session_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"chair_id" uuid NOT NULL,
	"padded" "tstzrange" NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"reason" jsonb NOT NULL,
	CONSTRAINT "session_hosts_workspace_id_session_id_host_id_pk" PRIMARY KEY("workspace_id","session_id","host_id")
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"event_type_id" uuid NOT NULL,
	"starts_at" timestamp with time zone NOT NULL,
	"ends_at" timestamp with time zone NOT NULL,
	"buffer_before_minutes" integer NOT NULL,
	"buffer_after_minutes" integer NOT NULL,
	"seats" integer NOT NULL,
	"seats_taken" integer NOT NULL,
	"place" jsonb NOT NULL,
	"cancelled" boolean DEFAULT false NOT NULL,
	"sequence" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "sessions_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "sessions_forward" CHECK ("sessions"."ends_at" > "sessions"."starts_at"),
	CONSTRAINT "sessions_seats" CHECK ("sessions"."seats_taken" between 0 and "sessions"."seats")
);
--> statement-breakpoint
CREATE TABLE "chair_hosts" (
	"workspace_id" uuid NOT NULL,
	"chair_id" uuid NOT NULL,
	"host_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"weight" double precision DEFAULT 1 NOT NULL,
	"credit" double precision DEFAULT 0 NOT NULL,
	"assigned_at" timestamp with time zone,
	CONSTRAINT "chair_hosts_workspace_id_chair_id_host_id_pk" PRIMARY KEY("workspace_id","chair_id","host_id")
);
--> statement-breakpoint
CREATE TABLE "chairs" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"event_type_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"name" text NOT NULL,
	"policy" text NOT NULL,
	CONSTRAINT "chairs_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "chairs_position_unique" UNIQUE("workspace_id","event_type_id","position")
);
--> statement-breakpoint
CREATE TABLE "event_types" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"slug" text NOT NULL,
	"state" text DEFAULT 'draft' NOT NULL,
	"listed" boolean DEFAULT true NOT NULL,
	"position" integer DEFAULT 0 NOT NULL,
	"settings" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "event_types_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "event_types_slug_unique" UNIQUE("workspace_id","slug")
);
--> statement-breakpoint
CREATE TABLE "rate_limits" (
	"key" varchar(255) PRIMARY KEY NOT NULL,
	"points" integer DEFAULT 0 NOT NULL,
	"expire" bigint
);
--> statement-breakpoint
CREATE TABLE "deliveries" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"booking_id" uuid NOT NULL,
	"occasion" text NOT NULL,
	"audience" text NOT NULL,
	"host_id" uuid,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"state" text DEFAULT 'planned' NOT NULL,
	"with_link" boolean,
	"message_id" text NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"fault" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"sent_at" timestamp with time zone,
	CONSTRAINT "deliveries_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "deliveries_cause_unique" UNIQUE("workspace_id","booking_id","occasion","audience","address")
);
--> statement-breakpoint
CREATE TABLE "hosts" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"member_id" uuid,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"time_zone" text NOT NULL,
	CONSTRAINT "hosts_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "hosts_member_unique" UNIQUE("workspace_id","member_id")
);
--> statement-breakpoint
CREATE TABLE "hours_plans" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"host_id" uuid NOT NULL,
	"name" text NOT NULL,
	"plan" jsonb NOT NULL,
	CONSTRAINT "hours_plans_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
CREATE TABLE "members" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"role" text NOT NULL,
	"time_zone" text NOT NULL,
	"password_hash" text NOT NULL,
	CONSTRAINT "members_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "members_email_unique" UNIQUE("email"),
	CONSTRAINT "members_email_lower" CHECK ("members"."email" = lower("members"."email"))
);
--> statement-breakpoint
CREATE TABLE "workspaces" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"slug" text NOT NULL,
	"name" text NOT NULL,
	"about" text DEFAULT '' NOT NULL,
	"time_zone" text NOT NULL,
	"looks" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "workspaces_slug_unique" UNIQUE("slug")
);
--> statement-breakpoint
CREATE TABLE "rooms" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"session_id" uuid NOT NULL,
	"state" text DEFAULT 'planned' NOT NULL,
	"account_id" uuid,
	"external_id" text,
	"join_url" text,
	"host_url" text,
	"number" text,
	"passcode" text,
	"attempts" integer DEFAULT 0 NOT NULL,
	"last_fault" text,
	"next_try_at" timestamp with time zone,
	CONSTRAINT "rooms_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "rooms_session_unique" UNIQUE("workspace_id","session_id")
);
--> statement-breakpoint
CREATE TABLE "video_accounts" (
	"workspace_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"host_id" uuid,
	"service" text NOT NULL,
	"label" text NOT NULL,
	"sealed_tokens" text NOT NULL,
	"state" text DEFAULT 'connected' NOT NULL,
	"connected_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "video_accounts_workspace_id_id_pk" PRIMARY KEY("workspace_id","id"),
	CONSTRAINT "video_accounts_owner_unique" UNIQUE NULLS NOT DISTINCT("workspace_id","service","host_id")
);
--> statement-breakpoint
CREATE TABLE "trail" (
	"workspace_id" uuid NOT NULL,
	"id" bigserial NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"session_id" uuid NOT NULL,
	"booking_id" uuid,
	"code" text NOT NULL,
	"values" jsonb NOT NULL,
	CONSTRAINT "trail_workspace_id_id_pk" PRIMARY KEY("workspace_id","id")
);
--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_workspace_id_booking_id_bookings_workspace_id_id_fk" FOREIGN KEY ("workspace_id","booking_id") REFERENCES "public"."bookings"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bookings" ADD CONSTRAINT "bookings_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bookings" ADD CONSTRAINT "bookings_workspace_id_session_id_sessions_workspace_id_id_fk" FOREIGN KEY ("workspace_id","session_id") REFERENCES "public"."sessions"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "guests" ADD CONSTRAINT "guests_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "guests" ADD CONSTRAINT "guests_workspace_id_booking_id_bookings_workspace_id_id_fk" FOREIGN KEY ("workspace_id","booking_id") REFERENCES "public"."bookings"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "idempotency_keys" ADD CONSTRAINT "idempotency_keys_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session_hosts" ADD CONSTRAINT "session_hosts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session_hosts" ADD CONSTRAINT "session_hosts_workspace_id_session_id_sessions_workspace_id_id_fk" FOREIGN KEY ("workspace_id","session_id") REFERENCES "public"."sessions"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session_hosts" ADD CONSTRAINT "session_hosts_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session_hosts" ADD CONSTRAINT "session_hosts_workspace_id_chair_id_chairs_workspace_id_id_fk" FOREIGN KEY ("workspace_id","chair_id") REFERENCES "public"."chairs"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_workspace_id_event_type_id_event_types_workspace_id_id_fk" FOREIGN KEY ("workspace_id","event_type_id") REFERENCES "public"."event_types"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chair_hosts" ADD CONSTRAINT "chair_hosts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chair_hosts" ADD CONSTRAINT "chair_hosts_workspace_id_chair_id_chairs_workspace_id_id_fk" FOREIGN KEY ("workspace_id","chair_id") REFERENCES "public"."chairs"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chair_hosts" ADD CONSTRAINT "chair_hosts_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chairs" ADD CONSTRAINT "chairs_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chairs" ADD CONSTRAINT "chairs_workspace_id_event_type_id_event_types_workspace_id_id_fk" FOREIGN KEY ("workspace_id","event_type_id") REFERENCES "public"."event_types"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "event_types" ADD CONSTRAINT "event_types_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_workspace_id_booking_id_bookings_workspace_id_id_fk" FOREIGN KEY ("workspace_id","booking_id") REFERENCES "public"."bookings"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hosts" ADD CONSTRAINT "hosts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hosts" ADD CONSTRAINT "hosts_workspace_id_member_id_members_workspace_id_id_fk" FOREIGN KEY ("workspace_id","member_id") REFERENCES "public"."members"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hours_plans" ADD CONSTRAINT "hours_plans_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hours_plans" ADD CONSTRAINT "hours_plans_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "members" ADD CONSTRAINT "members_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rooms" ADD CONSTRAINT "rooms_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rooms" ADD CONSTRAINT "rooms_workspace_id_session_id_sessions_workspace_id_id_fk" FOREIGN KEY ("workspace_id","session_id") REFERENCES "public"."sessions"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rooms" ADD CONSTRAINT "rooms_workspace_id_account_id_video_accounts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","account_id") REFERENCES "public"."video_accounts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "video_accounts" ADD CONSTRAINT "video_accounts_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "video_accounts" ADD CONSTRAINT "video_accounts_workspace_id_host_id_hosts_workspace_id_id_fk" FOREIGN KEY ("workspace_id","host_id") REFERENCES "public"."hosts"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trail" ADD CONSTRAINT "trail_workspace_id_workspaces_id_fk" FOREIGN KEY ("workspace_id") REFERENCES "public"."workspaces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trail" ADD CONSTRAINT "trail_workspace_id_session_id_sessions_workspace_id_id_fk" FOREIGN KEY ("workspace_id","session_id") REFERENCES "public"."sessions"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trail" ADD CONSTRAINT "trail_workspace_id_booking_id_bookings_workspace_id_id_fk" FOREIGN KEY ("workspace_id","booking_id") REFERENCES "public"."bookings"("workspace_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bookings_session" ON "bookings" USING btree ("workspace_id","session_id");--> statement-breakpoint
CREATE INDEX "bookings_created" ON "bookings" USING btree ("workspace_id","created_at");--> statement-breakpoint
CREATE INDEX "session_hosts_host" ON "session_hosts" USING btree ("workspace_id","host_id");--> statement-breakpoint
CREATE INDEX "sessions_time" ON "sessions" USING btree ("workspace_id","starts_at");--> statement-breakpoint
CREATE INDEX "sessions_event_type" ON "sessions" USING btree ("workspace_id","event_type_id","starts_at");--> statement-breakpoint
CREATE INDEX "hours_plans_host" ON "hours_plans" USING btree ("workspace_id","host_id");--> statement-breakpoint
CREATE INDEX "trail_session" ON "trail" USING btree ("workspace_id","session_id","id");--> statement-breakpoint
CREATE EXTENSION IF NOT EXISTS btree_gist;--> statement-breakpoint
-- No host sits in two sessions at once, buffers included, whatever runs at the same time.
ALTER TABLE "session_hosts" ADD CONSTRAINT "session_hosts_no_overlap" EXCLUDE USING gist ("workspace_id" WITH =, "host_id" WITH =, "padded" WITH &&) WHERE ("active");
