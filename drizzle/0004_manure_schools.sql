ALTER TABLE "organic_applications" ADD COLUMN "acidified" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "material_ph" double precision;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "area_frac" double precision DEFAULT 1 NOT NULL;