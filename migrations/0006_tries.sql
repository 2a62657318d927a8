CREATE TABLE "tries" (
	"id" serial PRIMARY KEY NOT NULL,
	"project_id" integer NOT NULL,
	"requirement" text NOT NULL,
	"criterion" text NOT NULL,
	"runs" integer NOT NULL,
	"margin" text,
	"ground" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_by" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "tries" ADD CONSTRAINT "tries_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tries_by_project" ON "tries" USING btree ("project_id","requirement");