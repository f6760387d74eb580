ALTER TABLE "field_seasons" ADD COLUMN "harvested_t_ha" double precision;--> statement-breakpoint
ALTER TABLE "nitrate_profiles" ADD COLUMN "sulphate_layers" jsonb DEFAULT '[]'::jsonb NOT NULL;