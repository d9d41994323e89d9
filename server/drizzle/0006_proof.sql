ALTER TABLE "run_files" ADD COLUMN "started_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "run_files" ADD COLUMN "milliseconds" integer;--> statement-breakpoint
ALTER TABLE "run_files" ADD COLUMN "proof" jsonb;--> statement-breakpoint
ALTER TABLE "run_sheets" ADD COLUMN "started_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "run_sheets" ADD COLUMN "worker" text;