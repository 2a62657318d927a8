ALTER TABLE "runs" ADD COLUMN "attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "runs_waiting" ON "runs" USING btree ("campaign_id","state");--> statement-breakpoint
CREATE INDEX "runs_under_way" ON "runs" USING btree ("project_id","state");--> statement-breakpoint
DROP SCHEMA IF EXISTS "pgboss" CASCADE;