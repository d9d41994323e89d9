ALTER TABLE "edits" ADD COLUMN "settings" jsonb;--> statement-breakpoint
ALTER TABLE "groups" ADD COLUMN "sheets" jsonb;