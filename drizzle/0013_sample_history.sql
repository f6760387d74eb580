ALTER TABLE "soil_samples" ADD COLUMN "oc_pct" double precision;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "clay_pct" double precision;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "stones_pct" double precision;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "at" jsonb;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "earlier" jsonb DEFAULT '[]'::jsonb NOT NULL;