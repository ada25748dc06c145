CREATE TABLE "studios" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"doc" json NOT NULL
);
