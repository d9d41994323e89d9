ALTER TABLE "run_files" ADD COLUMN "format" text;--> statement-breakpoint
ALTER TABLE "run_sheets" ADD COLUMN "beside" jsonb;