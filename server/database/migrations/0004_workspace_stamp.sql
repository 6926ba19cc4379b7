ALTER TABLE "hosts" ADD COLUMN "taken_stamp" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "workspaces" ADD COLUMN "stamp" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE FUNCTION "raise_workspace_stamp"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' THEN
    UPDATE "workspaces" SET "stamp" = "stamp" + 1 WHERE "id" = OLD."workspace_id";
  ELSE
    UPDATE "workspaces" SET "stamp" = "stamp" + 1 WHERE "id" = NEW."workspace_id";
  END IF;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION "raise_own_stamp"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW."stamp" = OLD."stamp" + 1;
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER "workspaces_stamp" BEFORE UPDATE OF "slug", "name", "about", "time_zone", "confirmed_at", "looks" ON "workspaces" FOR EACH ROW EXECUTE FUNCTION "raise_own_stamp"();--> statement-breakpoint
CREATE TRIGGER "event_types_stamp" AFTER INSERT OR UPDATE OR DELETE ON "event_types" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
CREATE TRIGGER "event_type_addresses_stamp" AFTER INSERT OR UPDATE OR DELETE ON "event_type_addresses" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
CREATE TRIGGER "chairs_stamp" AFTER INSERT OR UPDATE OR DELETE ON "chairs" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
-- What rotation remembers changes with every booking and is read apart.
CREATE TRIGGER "chair_hosts_stamp" AFTER INSERT OR DELETE OR UPDATE OF "position", "weight" ON "chair_hosts" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
CREATE TRIGGER "hosts_stamp" AFTER INSERT OR DELETE OR UPDATE OF "name", "email", "time_zone", "member_id" ON "hosts" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();--> statement-breakpoint
CREATE TRIGGER "hours_plans_stamp" AFTER INSERT OR UPDATE OR DELETE ON "hours_plans" FOR EACH ROW EXECUTE FUNCTION "raise_workspace_stamp"();
