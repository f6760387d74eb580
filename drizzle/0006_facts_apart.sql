DROP TABLE "nitrate_layers" CASCADE;--> statement-breakpoint
ALTER TABLE "field_seasons" DROP COLUMN "nitrate_sample_date";