ALTER TABLE "field_seasons" ADD COLUMN "residue_cover_frac" double precision;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "observed_stages" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "row_cm" double precision;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "opener_id" text;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "sidedress_test" jsonb;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "rich_strip" jsonb;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "others" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "fields" ADD COLUMN "drainage_class" text;