CREATE TABLE "builds" (
	"id" serial PRIMARY KEY NOT NULL,
	"project_id" integer NOT NULL,
	"revision_id" integer NOT NULL,
	"loop" text NOT NULL,
	"fingerprint" text NOT NULL,
	"hash" text NOT NULL,
	"record" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_by" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "builds" ADD CONSTRAINT "builds_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "builds" ADD CONSTRAINT "builds_revision_id_revisions_id_fk" FOREIGN KEY ("revision_id") REFERENCES "public"."revisions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "builds_by_loop" ON "builds" USING btree ("project_id","loop","hash");