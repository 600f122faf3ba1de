CREATE TABLE "kept_glasses" (
	"drink" text NOT NULL,
	"version" integer NOT NULL,
	"well" text NOT NULL,
	"glass" jsonb NOT NULL,
	"closed" jsonb,
	"depends_on" text[] NOT NULL,
	"turns_on" date,
	"sequence" integer NOT NULL,
	"model" integer NOT NULL,
	CONSTRAINT "kept_glasses_pkey" PRIMARY KEY("drink","version","well")
);
--> statement-breakpoint
CREATE TABLE "kept_up_to" (
	"what" text PRIMARY KEY NOT NULL,
	"sequence" integer NOT NULL,
	"made_with" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "usual_pours" (
	"ingredient" text NOT NULL,
	"drink" text NOT NULL,
	"volumes_ml" double precision[] NOT NULL,
	CONSTRAINT "usual_pours_pkey" PRIMARY KEY("ingredient","drink")
);
--> statement-breakpoint
ALTER TABLE "kept_glasses" ADD CONSTRAINT "kept_glasses_well_wells_slug_fk" FOREIGN KEY ("well") REFERENCES "public"."wells"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_glasses" ADD CONSTRAINT "kept_glasses_version" FOREIGN KEY ("drink","version") REFERENCES "public"."versions"("drink","number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "usual_pours" ADD CONSTRAINT "usual_pours_drink_drinks_slug_fk" FOREIGN KEY ("drink") REFERENCES "public"."drinks"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "kept_glasses_depend" ON "kept_glasses" USING gin ("depends_on");--> statement-breakpoint
CREATE INDEX "drinks_by_name" ON "drinks" USING btree ("name","slug");--> statement-breakpoint
CREATE INDEX "events_of" ON "events" USING btree ("kind","subject","sequence");--> statement-breakpoint
CREATE INDEX "kept_answers_at" ON "kept_answers" USING btree ("at");--> statement-breakpoint
CREATE INDEX "lot_events_of" ON "lot_events" USING btree ("lot","id");--> statement-breakpoint
CREATE INDEX "lots_of" ON "lots" USING btree ("ingredient","id");--> statement-breakpoint
CREATE INDEX "lots_pressed" ON "lots" USING btree ("id") WHERE "lots"."document" ? 'pressed';--> statement-breakpoint
CREATE INDEX "split_preps_of" ON "split_preps" USING btree ("ingredient","id");--> statement-breakpoint
CREATE INDEX "trial_events_of" ON "trial_events" USING btree ("trial","id");--> statement-breakpoint
CREATE INDEX "trials_of" ON "trials" USING btree ("well","station","id");--> statement-breakpoint
CREATE INDEX "version_parents_of" ON "version_parents" USING btree ("parent_drink","parent_number");