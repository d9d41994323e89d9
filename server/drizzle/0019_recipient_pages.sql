CREATE TABLE "recipient_pages" (
	"delivery_id" text PRIMARY KEY NOT NULL,
	"sealed_password" text,
	"last_day" date NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"closed_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "recipient_visits" (
	"id" serial PRIMARY KEY NOT NULL,
	"delivery_id" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"what" text NOT NULL,
	"position" integer
);
--> statement-breakpoint
ALTER TABLE "recipient_pages" ADD CONSTRAINT "recipient_pages_delivery_id_deliveries_id_fk" FOREIGN KEY ("delivery_id") REFERENCES "public"."deliveries"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recipient_visits" ADD CONSTRAINT "recipient_visits_delivery_id_recipient_pages_delivery_id_fk" FOREIGN KEY ("delivery_id") REFERENCES "public"."recipient_pages"("delivery_id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "recipient_visits_page" ON "recipient_visits" USING btree ("delivery_id");