CREATE TABLE "calibrations" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "calibrations_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"well" text NOT NULL,
	"station" text NOT NULL,
	"ice" text NOT NULL,
	"document" jsonb NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "trial_events" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "trial_events_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"trial" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"event" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "trials" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "trials_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"well" text NOT NULL,
	"station" text NOT NULL,
	"made_on" date NOT NULL,
	"document" jsonb NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "calibrations" ADD CONSTRAINT "calibrations_well_wells_slug_fk" FOREIGN KEY ("well") REFERENCES "public"."wells"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial_events" ADD CONSTRAINT "trial_events_trial_trials_id_fk" FOREIGN KEY ("trial") REFERENCES "public"."trials"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_well_wells_slug_fk" FOREIGN KEY ("well") REFERENCES "public"."wells"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER trials_are_history BEFORE UPDATE OR DELETE ON "trials" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER trials_are_not_emptied BEFORE TRUNCATE ON "trials" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER trial_events_are_history BEFORE UPDATE OR DELETE ON "trial_events" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER trial_events_are_not_emptied BEFORE TRUNCATE ON "trial_events" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER calibrations_are_history BEFORE UPDATE OR DELETE ON "calibrations" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER calibrations_are_not_emptied BEFORE TRUNCATE ON "calibrations" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
