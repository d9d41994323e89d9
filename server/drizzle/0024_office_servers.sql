CREATE TABLE "office_servers" (
	"id" text NOT NULL,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"user" text NOT NULL,
	"sealed" text,
	"fingerprint" text,
	CONSTRAINT "office_servers_id_pk" PRIMARY KEY("id")
);
