CREATE FUNCTION notify_of_session() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('session_changed', NEW.session_id::text);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER "trail_notifies" AFTER INSERT ON "trail" FOR EACH ROW
  WHEN (NEW.code IN ('roomReady', 'roomRenewed', 'roomLost', 'roomRemoved', 'placeChanged', 'approved', 'declined', 'cancelled', 'handedOver'))
  EXECUTE FUNCTION notify_of_session();
