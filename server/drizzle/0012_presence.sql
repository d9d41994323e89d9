CREATE TABLE "presence" (
	"window" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"person" text NOT NULL,
	"name" text NOT NULL,
	"sheet" text,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "presence" ADD CONSTRAINT "presence_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "presence_project" ON "presence" USING btree ("project_id");