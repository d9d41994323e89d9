CREATE TABLE "workers" (
	"id" text PRIMARY KEY NOT NULL,
	"host" text NOT NULL,
	"pid" integer NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "job_attempts" (
	"job_id" uuid PRIMARY KEY NOT NULL,
	"worker_id" text,
	"attempt" text,
	"crashes" integer DEFAULT 0 NOT NULL,
	"failures" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE INDEX "job_attempts_worker" ON "job_attempts" USING btree ("worker_id");--> statement-breakpoint
CREATE INDEX "job_attempts_attempt" ON "job_attempts" USING btree ("attempt");--> statement-breakpoint
-- What was made by older code is made again: its keys were kept by hand.
DROP TABLE "made";--> statement-breakpoint
CREATE TABLE "artifacts" (
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"hash" text NOT NULL,
	"facts" jsonb,
	CONSTRAINT "artifacts_kind_key_pk" PRIMARY KEY("kind","key")
);
--> statement-breakpoint
ALTER TABLE "run_sheets" RENAME COLUMN "beside" TO "extra_formats";--> statement-breakpoint
ALTER TABLE "run_sheets" ADD COLUMN "page_facts" jsonb;--> statement-breakpoint
ALTER TABLE "run_sheets" ADD COLUMN "input_hash" text;--> statement-breakpoint
-- Documents carry their version from now on; those of before are version 1.
UPDATE "projects" SET "facts" = jsonb_build_object('version', 1, 'value', "facts"), "recipes" = jsonb_build_object('version', 1, 'value', "recipes");--> statement-breakpoint
UPDATE "groups" SET "sheets" = jsonb_build_object('version', 1, 'value', "sheets") WHERE "sheets" IS NOT NULL;--> statement-breakpoint
UPDATE "drawings" SET "facts" = jsonb_build_object('version', 1, 'value', "facts"), "windows" = jsonb_build_object('version', 1, 'value', "windows");--> statement-breakpoint
ALTER TABLE "drawings" ALTER COLUMN "windows" DROP DEFAULT;--> statement-breakpoint
UPDATE "sheets" SET "sheet" = jsonb_build_object('version', 1, 'value', "sheet");--> statement-breakpoint
UPDATE "packages" SET "pack" = jsonb_build_object('version', 1, 'value', "pack");--> statement-breakpoint
UPDATE "edits" SET "changes" = jsonb_build_object('version', 1, 'value', "changes");--> statement-breakpoint
UPDATE "edits" SET "settings" = jsonb_build_object('version', 1, 'value', "settings") WHERE "settings" IS NOT NULL;--> statement-breakpoint
UPDATE "edits" SET "pack" = jsonb_build_object('version', 1, 'value', "pack") WHERE "pack" IS NOT NULL;--> statement-breakpoint
UPDATE "runs" SET "input" = jsonb_build_object('version', 1, 'value', "input");--> statement-breakpoint
UPDATE "issues" SET "issue" = jsonb_build_object('version', 1, 'value', "issue");
