ALTER TABLE "organic_applications" ALTER COLUMN "document" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "crop_year";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "rate";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "rate_unit";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "method_key";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "lab";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "coverings";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "planned_hours";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "temp_c";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "wind_m_s";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "soil";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "cover";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "acidified";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "material_ph";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "area_frac";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "use";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "day";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "records";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "machine";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "price_per_t";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "distance_km";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP COLUMN "yield_bonus_pct";