CREATE TABLE "drawings" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"name" text NOT NULL,
	"hash" text NOT NULL,
	"bytes" bigint NOT NULL,
	"unit" text,
	"facts" jsonb NOT NULL,
	"miniature" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "groups" (
	"project_id" text NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"position" integer NOT NULL,
	CONSTRAINT "groups_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
CREATE TABLE "made" (
	"kind" text NOT NULL,
	"input_hash" text NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "packages" (
	"project_id" text NOT NULL,
	"id" text NOT NULL,
	"position" integer NOT NULL,
	"pack" jsonb NOT NULL,
	CONSTRAINT "packages_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" text PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"recipes" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run_files" (
	"run_id" text NOT NULL,
	"position" integer NOT NULL,
	"path" text NOT NULL,
	"hash" text NOT NULL,
	"bytes" bigint NOT NULL,
	"pages" integer NOT NULL,
	"sheets" jsonb NOT NULL,
	CONSTRAINT "run_files_run_id_position_pk" PRIMARY KEY("run_id","position")
);
--> statement-breakpoint
CREATE TABLE "run_sheets" (
	"run_id" text NOT NULL,
	"position" integer NOT NULL,
	"sheet_id" text NOT NULL,
	"state" text NOT NULL,
	"part_hash" text,
	"milliseconds" integer,
	"problem" jsonb,
	CONSTRAINT "run_sheets_run_id_position_pk" PRIMARY KEY("run_id","position")
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"package_id" text NOT NULL,
	"package_name" text NOT NULL,
	"state" text NOT NULL,
	"input" jsonb NOT NULL,
	"problem" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sheets" (
	"project_id" text NOT NULL,
	"id" text NOT NULL,
	"position" integer NOT NULL,
	"sheet" jsonb NOT NULL,
	CONSTRAINT "sheets_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
ALTER TABLE "drawings" ADD CONSTRAINT "drawings_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "groups" ADD CONSTRAINT "groups_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packages" ADD CONSTRAINT "packages_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_files" ADD CONSTRAINT "run_files_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_sheets" ADD CONSTRAINT "run_sheets_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sheets" ADD CONSTRAINT "sheets_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "made_key" ON "made" USING btree ("kind","input_hash");