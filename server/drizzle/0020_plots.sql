ALTER TABLE "deliveries" ADD COLUMN "renewals" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "plot" jsonb;