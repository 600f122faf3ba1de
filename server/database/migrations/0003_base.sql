CREATE TABLE "flights" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "flights_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"tasted_on" date NOT NULL,
	"document" jsonb NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recipes" (
	"ingredient" text NOT NULL,
	"number" integer NOT NULL,
	"recipe" jsonb NOT NULL,
	"reason" text NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL,
	CONSTRAINT "recipes_pkey" PRIMARY KEY("ingredient","number")
);
--> statement-breakpoint
CREATE TABLE "slots" (
	"slug" text PRIMARY KEY NOT NULL,
	"position" integer NOT NULL,
	"document" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "split_preps" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "split_preps_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"ingredient" text NOT NULL,
	"document" jsonb NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "recipes" ADD CONSTRAINT "recipes_ingredient_ingredients_slug_fk" FOREIGN KEY ("ingredient") REFERENCES "public"."ingredients"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "split_preps" ADD CONSTRAINT "split_preps_ingredient_ingredients_slug_fk" FOREIGN KEY ("ingredient") REFERENCES "public"."ingredients"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER flights_are_history BEFORE UPDATE OR DELETE ON "flights" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER flights_are_not_emptied BEFORE TRUNCATE ON "flights" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER recipes_are_history BEFORE UPDATE OR DELETE ON "recipes" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER recipes_are_not_emptied BEFORE TRUNCATE ON "recipes" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER split_preps_are_history BEFORE UPDATE OR DELETE ON "split_preps" FOR EACH ROW EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
CREATE TRIGGER split_preps_are_not_emptied BEFORE TRUNCATE ON "split_preps" FOR EACH STATEMENT EXECUTE FUNCTION refuse_history_change();
--> statement-breakpoint
INSERT INTO "recipes" ("ingredient", "number", "recipe", "reason", "saved_by", "saved_at")
SELECT "slug", 1, "document" -> 'recipe', 'as it was when recipes began to be kept', 'Lazy Conch', now() FROM "ingredients" WHERE "document" ? 'recipe';
