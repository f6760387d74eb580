ALTER TABLE "field_seasons" ADD COLUMN "symptoms" jsonb;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "sap" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "fruit_block" jsonb;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "soil_leaf_answers" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "next_season" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "hour" double precision;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "place" text;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "taken_by" text;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "biomass_t_ha" double precision;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "ten_plants_g" double precision;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "laboratory_number" text;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "sent_on" date;