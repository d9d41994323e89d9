CREATE TABLE "deliveries" (
	"id" text PRIMARY KEY NOT NULL,
	"run_id" text NOT NULL,
	"destination" jsonb NOT NULL,
	"location" text,
	"started_by" text,
	"state" text NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"next_attempt_at" timestamp with time zone,
	"problem" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "delivery_files" (
	"delivery_id" text NOT NULL,
	"position" integer NOT NULL,
	"outcome" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "delivery_files_delivery_id_position_pk" PRIMARY KEY("delivery_id","position")
);
--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "delivery_files" ADD CONSTRAINT "delivery_files_delivery_id_deliveries_id_fk" FOREIGN KEY ("delivery_id") REFERENCES "public"."deliveries"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "deliveries_run" ON "deliveries" USING btree ("run_id");--> statement-breakpoint
INSERT INTO "deliveries" ("id", "run_id", "destination", "started_by", "state", "created_at", "finished_at")
SELECT gen_random_uuid()::text, run."id",
	jsonb_build_object('version', 1, 'value', CASE
		WHEN sent ? 'kind' THEN sent
		ELSE jsonb_build_object(
			'kind', 'folder',
			'folder', coalesce(sent->>'folder', run."input"#>>'{value,folder}', ''),
			'onConflict', coalesce(sent->>'onConflict', sent->>'there', chosen->>'onConflict', chosen->>'there', 'stop'))
	END),
	run."started_by",
	CASE WHEN EXISTS (
		SELECT 1 FROM "run_files" AS file WHERE file."run_id" = run."id" AND (file."delivered" IS NULL OR file."delivered" ? 'problem')
	) THEN 'failed' ELSE 'done' END,
	coalesce(run."finished_at", run."created_at"), coalesce(run."finished_at", run."created_at")
FROM "runs" AS run,
	LATERAL (SELECT
		coalesce(run."input"#>'{value,destination}', '{}') AS sent,
		coalesce(run."input"#>'{value,package,destination}', '{}') AS chosen) AS known
WHERE EXISTS (SELECT 1 FROM "run_files" AS file WHERE file."run_id" = run."id" AND file."delivered" IS NOT NULL);--> statement-breakpoint
INSERT INTO "delivery_files" ("delivery_id", "position", "outcome", "at")
SELECT delivery."id", file."position", file."delivered", delivery."finished_at"
FROM "run_files" AS file JOIN "deliveries" AS delivery ON delivery."run_id" = file."run_id"
WHERE file."delivered" IS NOT NULL;--> statement-breakpoint
ALTER TABLE "run_files" DROP COLUMN "delivered";