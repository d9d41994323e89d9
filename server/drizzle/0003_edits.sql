CREATE TABLE "edits" (
	"id" serial PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"words" text NOT NULL,
	"changes" jsonb NOT NULL,
	"undone" boolean DEFAULT false NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "edits" ADD CONSTRAINT "edits_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "edits_of_project" ON "edits" USING btree ("project_id","id");