CREATE TABLE "earlier_versions" (
	"drawing_id" text NOT NULL,
	"version" integer NOT NULL,
	"name" text NOT NULL,
	"hash" text NOT NULL,
	"bytes" bigint NOT NULL,
	"unit" text,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "earlier_versions_drawing_id_version_pk" PRIMARY KEY("drawing_id","version")
);
--> statement-breakpoint
ALTER TABLE "drawings" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "drawings" ADD COLUMN "version_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "earlier_versions" ADD CONSTRAINT "earlier_versions_drawing_id_drawings_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawings"("id") ON DELETE no action ON UPDATE no action;