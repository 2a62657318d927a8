ALTER TABLE "batches" ADD COLUMN "touched" text;--> statement-breakpoint
ALTER TABLE "campaigns" ADD COLUMN "touched" text;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "touched" text;--> statement-breakpoint
ALTER TABLE "workers" ADD COLUMN "threads" integer DEFAULT 1 NOT NULL;