CREATE TABLE "library_changes" (
	"farm_id" text NOT NULL,
	"table" text NOT NULL,
	"key" text NOT NULL,
	"like" text NOT NULL,
	"values" jsonb NOT NULL,
	"by" text NOT NULL,
	"on" date NOT NULL,
	"why" text NOT NULL,
	CONSTRAINT "library_changes_farm_id_table_key_pk" PRIMARY KEY("farm_id","table","key")
);
--> statement-breakpoint
CREATE TABLE "machines" (
	"id" text PRIMARY KEY NOT NULL,
	"farm_id" text NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"min_rate" double precision NOT NULL,
	"max_rate" double precision NOT NULL,
	"capacity" double precision NOT NULL,
	"calibrations" jsonb NOT NULL,
	"position" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stores" (
	"id" text PRIMARY KEY NOT NULL,
	"farm_id" text NOT NULL,
	"name" text NOT NULL,
	"material_key" text NOT NULL,
	"amount_t" double precision,
	"price_per_t" double precision DEFAULT 0 NOT NULL,
	"labs" jsonb NOT NULL,
	"position" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "farms" ADD COLUMN "terms" jsonb;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "stand" jsonb;--> statement-breakpoint
ALTER TABLE "fields" ADD COLUMN "fixes" text DEFAULT 'none' NOT NULL;--> statement-breakpoint
ALTER TABLE "fields" ADD COLUMN "slope_pct" double precision;--> statement-breakpoint
ALTER TABLE "fields" ADD COLUMN "near" jsonb;--> statement-breakpoint
ALTER TABLE "fields" ADD COLUMN "forage" jsonb;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "store_id" text;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "use" jsonb;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "day" jsonb;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "records" jsonb;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "machine" jsonb;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "price_per_t" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "distance_km" double precision;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD COLUMN "yield_bonus_pct" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "library_changes" ADD CONSTRAINT "library_changes_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "machines" ADD CONSTRAINT "machines_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stores" ADD CONSTRAINT "stores_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "machines_farm" ON "machines" USING btree ("farm_id");--> statement-breakpoint
CREATE INDEX "stores_farm" ON "stores" USING btree ("farm_id");--> statement-breakpoint
UPDATE "field_seasons" SET "irrigation" = '{"so4sMgL": null, "kMgL": null}'::jsonb || "irrigation" WHERE jsonb_typeof("irrigation") = 'object';--> statement-breakpoint
UPDATE "organic_applications" SET "lab" = '{"report": null, "earlier": null}'::jsonb || "lab" WHERE jsonb_typeof("lab") = 'object';
