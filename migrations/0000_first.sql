CREATE TABLE "campaigns" (
	"id" serial PRIMARY KEY NOT NULL,
	"project_id" integer NOT NULL,
	"revision_id" integer NOT NULL,
	"state" text DEFAULT 'queued' NOT NULL,
	"total" integer NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_by" text NOT NULL,
	"started_at" timestamp with time zone,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "documents" (
	"hash" text PRIMARY KEY NOT NULL,
	"content" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "obligations" (
	"run_id" integer NOT NULL,
	"requirement" text NOT NULL,
	"criterion" text NOT NULL,
	"ordinal" integer NOT NULL,
	"owed_from" double precision NOT NULL,
	"owed_until" double precision NOT NULL,
	"outcome" text NOT NULL,
	"at" double precision NOT NULL,
	"margin" double precision,
	"unit" text,
	"measure" double precision,
	"at_least" boolean DEFAULT false NOT NULL,
	"reason" text,
	CONSTRAINT "obligations_run_id_requirement_criterion_ordinal_pk" PRIMARY KEY("run_id","requirement","criterion","ordinal")
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" serial PRIMARY KEY NOT NULL,
	"slug" text NOT NULL,
	"name" text NOT NULL,
	"about" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_by" text NOT NULL,
	CONSTRAINT "projects_slug_unique" UNIQUE("slug")
);
--> statement-breakpoint
CREATE TABLE "revision_files" (
	"revision_id" integer NOT NULL,
	"path" text NOT NULL,
	"hash" text NOT NULL,
	CONSTRAINT "revision_files_revision_id_path_pk" PRIMARY KEY("revision_id","path")
);
--> statement-breakpoint
CREATE TABLE "revisions" (
	"id" serial PRIMARY KEY NOT NULL,
	"project_id" integer NOT NULL,
	"number" integer NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_by" text NOT NULL,
	"note" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" serial PRIMARY KEY NOT NULL,
	"campaign_id" integer NOT NULL,
	"project_id" integer NOT NULL,
	"number" integer NOT NULL,
	"case_name" text NOT NULL,
	"stage" text DEFAULT 'model' NOT NULL,
	"seed" bigint NOT NULL,
	"state" text DEFAULT 'queued' NOT NULL,
	"worker" integer,
	"verdict" text,
	"fingerprint" text,
	"trace_hash" text,
	"error" text,
	"error_at" double precision,
	"discounted" text,
	"gave_up" text,
	"simulated_seconds" double precision,
	"elapsed_ms" double precision,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "verdicts" (
	"run_id" integer NOT NULL,
	"requirement" text NOT NULL,
	"criterion" text NOT NULL,
	"verdict" text NOT NULL,
	"obligations" integer NOT NULL,
	"worst" integer,
	"evidence" text NOT NULL,
	CONSTRAINT "verdicts_run_id_requirement_criterion_pk" PRIMARY KEY("run_id","requirement","criterion")
);
--> statement-breakpoint
CREATE TABLE "workers" (
	"id" serial PRIMARY KEY NOT NULL,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "campaigns" ADD CONSTRAINT "campaigns_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "campaigns" ADD CONSTRAINT "campaigns_revision_id_revisions_id_fk" FOREIGN KEY ("revision_id") REFERENCES "public"."revisions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "obligations" ADD CONSTRAINT "obligations_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "revision_files" ADD CONSTRAINT "revision_files_revision_id_revisions_id_fk" FOREIGN KEY ("revision_id") REFERENCES "public"."revisions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "revision_files" ADD CONSTRAINT "revision_files_hash_documents_hash_fk" FOREIGN KEY ("hash") REFERENCES "public"."documents"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "revisions" ADD CONSTRAINT "revisions_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_campaign_id_campaigns_id_fk" FOREIGN KEY ("campaign_id") REFERENCES "public"."campaigns"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "verdicts" ADD CONSTRAINT "verdicts_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "campaigns_by_project" ON "campaigns" USING btree ("project_id","id");--> statement-breakpoint
CREATE UNIQUE INDEX "revisions_by_number" ON "revisions" USING btree ("project_id","number");--> statement-breakpoint
CREATE UNIQUE INDEX "runs_by_number" ON "runs" USING btree ("campaign_id","number");--> statement-breakpoint
CREATE INDEX "runs_by_case" ON "runs" USING btree ("project_id","case_name","id");--> statement-breakpoint
CREATE INDEX "runs_by_state" ON "runs" USING btree ("state","worker");--> statement-breakpoint
CREATE INDEX "verdicts_by_requirement" ON "verdicts" USING btree ("requirement","run_id");