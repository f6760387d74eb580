ALTER TABLE "field_seasons" ADD COLUMN "bud_burst" date;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "leaf_fall" date;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "cuts" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "rain_since_sample_mm" double precision;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "jobs" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "answers" jsonb DEFAULT '[]'::jsonb NOT NULL;