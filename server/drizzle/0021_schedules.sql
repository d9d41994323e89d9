CREATE TABLE "schedules" (
	"project_id" text NOT NULL,
	"package_id" text NOT NULL,
	"settings" text NOT NULL,
	"handled_at" timestamp with time zone NOT NULL,
	"outcome" jsonb,
	CONSTRAINT "schedules_project_id_package_id_pk" PRIMARY KEY("project_id","package_id")
);
--> statement-breakpoint
ALTER TABLE "schedules" ADD CONSTRAINT "schedules_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;