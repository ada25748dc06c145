CREATE TABLE "formats" (
	"kind" text PRIMARY KEY NOT NULL,
	"version" integer NOT NULL
);
