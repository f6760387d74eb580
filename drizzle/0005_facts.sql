CREATE TABLE "nitrate_profiles" (
	"id" text PRIMARY KEY NOT NULL,
	"field_id" text NOT NULL,
	"date" date,
	"laboratory" text,
	"layers" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"author" text,
	"recorded_on" date
);
--> statement-breakpoint
DROP INDEX "fertiliser_passes_season";--> statement-breakpoint
DROP INDEX "organic_applications_season";--> statement-breakpoint
ALTER TABLE "fertiliser_passes" DROP CONSTRAINT "fertiliser_passes_pkey";--> statement-breakpoint
ALTER TABLE "organic_applications" DROP CONSTRAINT "organic_applications_pkey";--> statement-breakpoint
ALTER TABLE "soil_samples" ALTER COLUMN "date" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "fertiliser_passes" ADD CONSTRAINT "fertiliser_passes_season_id_id_pk" PRIMARY KEY("season_id","id");--> statement-breakpoint
ALTER TABLE "organic_applications" ADD CONSTRAINT "organic_applications_season_id_id_pk" PRIMARY KEY("season_id","id");--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "soil_because" text;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "nitrate_profile_id" text;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "nitrate_because" text;--> statement-breakpoint
ALTER TABLE "fields" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "author" text;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "recorded_on" date;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "author" text;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD COLUMN "recorded_on" date;--> statement-breakpoint
ALTER TABLE "nitrate_profiles" ADD CONSTRAINT "nitrate_profiles_field_id_fields_id_fk" FOREIGN KEY ("field_id") REFERENCES "public"."fields"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "nitrate_profiles_field" ON "nitrate_profiles" USING btree ("field_id");--> statement-breakpoint
ALTER TABLE "field_seasons" ADD CONSTRAINT "field_seasons_nitrate_profile_id_nitrate_profiles_id_fk" FOREIGN KEY ("nitrate_profile_id") REFERENCES "public"."nitrate_profiles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
INSERT INTO "nitrate_profiles" ("id", "field_id", "date", "layers")
SELECT 'nitrate-' || s."id", s."field_id", s."nitrate_sample_date", COALESCE((
  SELECT jsonb_agg(jsonb_build_object('topCm', l."top_cm", 'bottomCm', l."bottom_cm", 'no3nMgKg', l."no3n_mg_kg", 'bulkDensityGCm3', l."bulk_density_g_cm3", 'stonesVolFrac', l."stones_vol_frac") ORDER BY l."position")
  FROM "nitrate_layers" l WHERE l."season_id" = s."id"), '[]'::jsonb)
FROM "field_seasons" s
WHERE s."nitrate_sample_date" IS NOT NULL OR EXISTS (SELECT 1 FROM "nitrate_layers" l WHERE l."season_id" = s."id");--> statement-breakpoint
UPDATE "field_seasons" SET "nitrate_profile_id" = 'nitrate-' || "id", "nitrate_because" = 'entered'
WHERE 'nitrate-' || "id" IN (SELECT "id" FROM "nitrate_profiles");--> statement-breakpoint
UPDATE "field_seasons" s SET "soil_because" = CASE WHEN (SELECT m."kind" FROM "soil_samples" m WHERE m."id" = s."soil_sample_id") = 'mean' THEN 'mean' ELSE 'entered' END
WHERE s."soil_sample_id" IS NOT NULL;
