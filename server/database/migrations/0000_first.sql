CREATE TABLE "audit" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "audit_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"act" text NOT NULL,
	"subject" text NOT NULL,
	"detail" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "drafts" (
	"drink" text PRIMARY KEY NOT NULL,
	"base_version" integer,
	"document" jsonb NOT NULL,
	"revision" integer NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "drinks" (
	"slug" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"draft_revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "editions" (
	"number" integer PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"note" text NOT NULL,
	"published_by" text NOT NULL,
	"published_at" timestamp with time zone NOT NULL,
	"listing" jsonb NOT NULL,
	"lock" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "glasses" (
	"slug" text PRIMARY KEY NOT NULL,
	"position" integer NOT NULL,
	"document" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "house" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"settings" jsonb NOT NULL,
	"is_demo" boolean DEFAULT false NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "ingredients" (
	"slug" text PRIMARY KEY NOT NULL,
	"position" integer NOT NULL,
	"document" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "menu_plan" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"plan" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "replaced_drafts" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "replaced_drafts_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"drink" text NOT NULL,
	"base_version" integer,
	"document" jsonb NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL,
	"replaced_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stations" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "stations_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"well" text NOT NULL,
	"slug" text NOT NULL,
	"position" integer NOT NULL,
	"document" jsonb NOT NULL,
	CONSTRAINT "stations_well_slug" UNIQUE("well","slug")
);
--> statement-breakpoint
CREATE TABLE "versions" (
	"drink" text NOT NULL,
	"number" integer NOT NULL,
	"parent" integer,
	"label" text NOT NULL,
	"era" text NOT NULL,
	"source" text NOT NULL,
	"reason" text NOT NULL,
	"document" jsonb NOT NULL,
	"saved_by" text NOT NULL,
	"saved_at" timestamp with time zone NOT NULL,
	CONSTRAINT "versions_pkey" PRIMARY KEY("drink","number")
);
--> statement-breakpoint
CREATE TABLE "wells" (
	"slug" text PRIMARY KEY NOT NULL,
	"position" integer NOT NULL,
	"document" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "drafts" ADD CONSTRAINT "drafts_drink_drinks_slug_fk" FOREIGN KEY ("drink") REFERENCES "public"."drinks"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replaced_drafts" ADD CONSTRAINT "replaced_drafts_drink_drinks_slug_fk" FOREIGN KEY ("drink") REFERENCES "public"."drinks"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stations" ADD CONSTRAINT "stations_well_wells_slug_fk" FOREIGN KEY ("well") REFERENCES "public"."wells"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_drink_drinks_slug_fk" FOREIGN KEY ("drink") REFERENCES "public"."drinks"("slug") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_parent" FOREIGN KEY ("drink","parent") REFERENCES "public"."versions"("drink","number") ON DELETE no action ON UPDATE no action;