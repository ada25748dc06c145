CREATE TABLE "arrangements" (
	"id" text PRIMARY KEY NOT NULL,
	"tune_id" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"doc" jsonb NOT NULL,
	"instrument" text NOT NULL,
	"place" serial NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tunes" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"title" text NOT NULL,
	"source" text,
	"doc" jsonb NOT NULL,
	"summary" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "arrangements" ADD CONSTRAINT "arrangements_tune_id_tunes_id_fk" FOREIGN KEY ("tune_id") REFERENCES "public"."tunes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "arrangements_tune" ON "arrangements" USING btree ("tune_id");--> statement-breakpoint
CREATE INDEX "tunes_title" ON "tunes" USING btree ("title");