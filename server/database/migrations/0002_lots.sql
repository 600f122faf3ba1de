CREATE TABLE "lot_events" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "lot_events_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"lot" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"event" jsonb NOT NULL,
	"is_end" boolean
);
--> statement-breakpoint
CREATE TABLE "lots" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "lots_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"ingredient" text NOT NULL,
	"made_on" date NOT NULL,
	"use_by" date,
	"document" jsonb NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "lot_events" ADD CONSTRAINT "lot_events_lot_lots_id_fk" FOREIGN KEY ("lot") REFERENCES "public"."lots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lots" ADD CONSTRAINT "lots_ingredient_ingredients_slug_fk" FOREIGN KEY ("ingredient") REFERENCES "public"."ingredients"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lots" ADD CONSTRAINT "lots_use_by_not_before_made" CHECK ("use_by" IS NULL OR "use_by" >= "made_on");
--> statement-breakpoint
CREATE INDEX "lot_events_by_lot" ON "lot_events" ("lot");
--> statement-breakpoint
CREATE TRIGGER lots_are_history BEFORE UPDATE OR DELETE ON "lots" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER lots_are_not_emptied BEFORE TRUNCATE ON "lots" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER lot_events_are_history BEFORE UPDATE OR DELETE ON "lot_events" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER lot_events_are_not_emptied BEFORE TRUNCATE ON "lot_events" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
