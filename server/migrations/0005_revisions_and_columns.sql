CREATE TABLE "shelves" (
	"studio" text PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "studio_parts" (
	"studio" text NOT NULL,
	"part" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"doc" json NOT NULL,
	CONSTRAINT "studio_parts_studio_part_pk" PRIMARY KEY("studio","part")
);
--> statement-breakpoint
DROP INDEX "tunes_title";--> statement-breakpoint
DROP INDEX "tunes_studio";--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "print" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "revision" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "columns_form" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "title_order" text COLLATE "C" DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "kind_order" text COLLATE "C" DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "composer_order" text COLLATE "C" DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "kind" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "key_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "metre_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "measures" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "tags" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "settings" text;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "own_letters" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "letters" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "instruments" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "levels" integer[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "cross_tuned" boolean DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX "tunes_by_title" ON "tunes" USING btree ("studio","title_order","id");--> statement-breakpoint
CREATE INDEX "tunes_by_revision" ON "tunes" USING btree ("studio","revision");--> statement-breakpoint
CREATE INDEX "tunes_by_change" ON "tunes" USING btree ("studio","updated_at");--> statement-breakpoint
ALTER TABLE "tunes" SET (toast_tuple_target = 1200);
