CREATE FUNCTION able_hosts(turns jsonb) RETURNS uuid[] LANGUAGE sql IMMUTABLE PARALLEL SAFE
	RETURN array(SELECT (turn ->> 'host')::uuid FROM jsonb_array_elements(turns) AS turn);--> statement-breakpoint
ALTER TABLE "assignments" ADD COLUMN "able" uuid[] GENERATED ALWAYS AS (able_hosts(turns)) STORED;
