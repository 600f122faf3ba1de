CREATE INDEX "lots_by_use_by" ON "lots" USING btree ("use_by","id" DESC NULLS LAST);--> statement-breakpoint
CREATE INDEX "lots_by_hand" ON "lots" USING btree ("saved_by");--> statement-breakpoint
CREATE INDEX "versions_saved" ON "versions" USING btree ("drink","number","saved_at");