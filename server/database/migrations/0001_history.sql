-- History does not change: the database itself refuses, whoever asks.
CREATE FUNCTION refuse_history_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'rows of % are history and do not change', TG_TABLE_NAME USING ERRCODE = 'CH001';
END;
$$;
--> statement-breakpoint
CREATE TRIGGER versions_are_history BEFORE UPDATE OR DELETE ON "versions" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER versions_are_not_emptied BEFORE TRUNCATE ON "versions" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER editions_are_history BEFORE UPDATE OR DELETE ON "editions" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER editions_are_not_emptied BEFORE TRUNCATE ON "editions" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER audit_is_history BEFORE UPDATE OR DELETE ON "audit" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER audit_is_not_emptied BEFORE TRUNCATE ON "audit" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER replaced_drafts_are_history BEFORE UPDATE OR DELETE ON "replaced_drafts" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER replaced_drafts_are_not_emptied BEFORE TRUNCATE ON "replaced_drafts" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
ALTER TABLE "house" ADD CONSTRAINT "house_is_one" CHECK ("id" = 1);
--> statement-breakpoint
ALTER TABLE "menu_plan" ADD CONSTRAINT "menu_plan_is_one" CHECK ("id" = 1);
