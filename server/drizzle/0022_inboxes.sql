CREATE TABLE "arrivals" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"inbox_id" text NOT NULL,
	"inbox_name" text NOT NULL,
	"path" text NOT NULL,
	"bytes" bigint NOT NULL,
	"written_at" timestamp with time zone NOT NULL,
	"seen_at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"offered" jsonb,
	"drawing_id" text,
	"version" integer,
	"problem" jsonb,
	"decided_by" text,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "inboxes" (
	"project_id" text NOT NULL,
	"id" text NOT NULL,
	"location" text,
	"problem" jsonb,
	"polled_at" timestamp with time zone NOT NULL,
	"changed_at" timestamp with time zone NOT NULL,
	CONSTRAINT "inboxes_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
ALTER TABLE "arrivals" ADD CONSTRAINT "arrivals_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "inboxes" ADD CONSTRAINT "inboxes_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "arrivals_path" ON "arrivals" USING btree ("project_id","inbox_id","path");--> statement-breakpoint
CREATE INDEX "arrivals_changed" ON "arrivals" USING btree ("project_id","changed_at");