ALTER TABLE "edits" ADD COLUMN "pack" jsonb;--> statement-breakpoint
ALTER TABLE "run_files" ADD COLUMN "delivered" jsonb;