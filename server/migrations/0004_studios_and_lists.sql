ALTER TABLE "arrangements" ADD COLUMN "level" integer;--> statement-breakpoint
ALTER TABLE "arrangements" ADD COLUMN "cross_tuned" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "arrangements" ADD COLUMN "deleted_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "studio" text DEFAULT 'studio' NOT NULL;--> statement-breakpoint
CREATE INDEX "tunes_studio" ON "tunes" USING btree ("studio");--> statement-breakpoint
UPDATE "arrangements" SET "level" = ("doc" ->> 'level')::int, "cross_tuned" = coalesce(jsonb_typeof("doc" -> 'tuning') = 'array', false);
