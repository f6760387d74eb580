ALTER TABLE "organic_applications" ADD COLUMN "document" jsonb;--> statement-breakpoint
-- What of a dressing no query asks for becomes one document, in the words of the plan.
UPDATE "organic_applications" SET "document" = jsonb_build_object(
  'cropYear', "crop_year",
  'rate', "rate",
  'rateUnit', "rate_unit",
  'methodKey', "method_key",
  'lab', "lab",
  'coverings', "coverings",
  'plannedHours', "planned_hours",
  'tempC', "temp_c",
  'windMS', "wind_m_s",
  'soil', "soil",
  'cover', "cover",
  'acidified', "acidified",
  'materialPh', "material_ph",
  'areaFrac', "area_frac",
  'day', "day",
  'records', "records",
  'machine', "machine",
  'pricePerT', "price_per_t",
  'distanceKm', "distance_km",
  'yieldBonusPct', "yield_bonus_pct"
) || CASE WHEN "use" IS NULL THEN '{}'::jsonb ELSE jsonb_build_object('use', "use") END;
