CREATE TABLE "versions" (
	"id" text PRIMARY KEY NOT NULL,
	"tune_id" text NOT NULL,
	"name" text DEFAULT '' NOT NULL,
	"kept" boolean DEFAULT false NOT NULL,
	"source" text,
	"doc" jsonb NOT NULL,
	"arrangements" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"place" serial NOT NULL
);
--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_tune_id_tunes_id_fk" FOREIGN KEY ("tune_id") REFERENCES "public"."tunes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "versions_tune" ON "versions" USING btree ("tune_id");