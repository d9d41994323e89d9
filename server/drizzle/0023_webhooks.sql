CREATE TABLE "webhook_calls" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"webhook_id" text NOT NULL,
	"event" text NOT NULL,
	"body" text NOT NULL,
	"state" text NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"answer" text,
	"created_at" timestamp with time zone NOT NULL,
	"next_attempt_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "webhooks" (
	"project_id" text NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"topics" text[] NOT NULL,
	"sealed_secret" text NOT NULL,
	CONSTRAINT "webhooks_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
ALTER TABLE "webhook_calls" ADD CONSTRAINT "webhook_calls_project_id_webhook_id_webhooks_project_id_id_fk" FOREIGN KEY ("project_id","webhook_id") REFERENCES "public"."webhooks"("project_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "webhooks" ADD CONSTRAINT "webhooks_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "webhook_calls_webhook" ON "webhook_calls" USING btree ("project_id","webhook_id","created_at");