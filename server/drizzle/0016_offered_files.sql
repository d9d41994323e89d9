CREATE TABLE "offered_files" (
	"project_id" text NOT NULL,
	"hash" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "offered_files_project_id_hash_pk" PRIMARY KEY("project_id","hash")
);
--> statement-breakpoint
ALTER TABLE "offered_files" ADD CONSTRAINT "offered_files_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;