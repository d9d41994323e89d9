CREATE TABLE "transfer_servers" (
	"project_id" text NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"user" text NOT NULL,
	"sealed" text,
	"host_key" text,
	CONSTRAINT "transfer_servers_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
ALTER TABLE "transfer_servers" ADD CONSTRAINT "transfer_servers_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;