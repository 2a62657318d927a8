CREATE TABLE "batches" (
	"campaign_id" integer NOT NULL,
	"first" integer NOT NULL,
	"count" integer NOT NULL,
	"state" text DEFAULT 'queued' NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"begun_at" timestamp with time zone,
	"worker" integer,
	"failed" integer,
	"busy_ms" double precision,
	"bytes" "bytea",
	"numbers" "bytea",
	"notes" text,
	CONSTRAINT "batches_campaign_id_first_pk" PRIMARY KEY("campaign_id","first")
);
--> statement-breakpoint
ALTER TABLE "campaigns" ADD COLUMN "document" text;--> statement-breakpoint
ALTER TABLE "campaigns" ADD COLUMN "priority" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "campaigns" ADD COLUMN "looked" text;--> statement-breakpoint
ALTER TABLE "campaigns" ADD COLUMN "ground" text;--> statement-breakpoint
ALTER TABLE "campaigns" ADD COLUMN "summary" text;--> statement-breakpoint
ALTER TABLE "batches" ADD CONSTRAINT "batches_campaign_id_campaigns_id_fk" FOREIGN KEY ("campaign_id") REFERENCES "public"."campaigns"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "batches_by_state" ON "batches" USING btree ("state","worker");--> statement-breakpoint
CREATE INDEX "batches_waiting" ON "batches" USING btree ("campaign_id","state");