DROP TABLE "drafts" CASCADE;--> statement-breakpoint
DROP TABLE "replaced_drafts" CASCADE;--> statement-breakpoint
ALTER TABLE "drinks" DROP COLUMN "draft_revision";