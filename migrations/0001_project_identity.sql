ALTER TABLE "projects" ADD COLUMN "identity" uuid DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD CONSTRAINT "projects_identity_unique" UNIQUE("identity");