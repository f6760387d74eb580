CREATE TABLE "audit" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"person_id" text NOT NULL,
	"farm_id" text NOT NULL,
	"action" text NOT NULL,
	"subject" text NOT NULL,
	"detail" jsonb
);
--> statement-breakpoint
CREATE TABLE "farms" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"place" text NOT NULL,
	"latitude_deg" double precision NOT NULL,
	"climate_id" text NOT NULL,
	"closed_periods" jsonb NOT NULL,
	"legal_n_cap_kg_ha" double precision,
	"n_price_per_kg" double precision NOT NULL,
	"demo" boolean DEFAULT false NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "fertiliser_passes" (
	"id" text PRIMARY KEY NOT NULL,
	"season_id" text NOT NULL,
	"position" integer NOT NULL,
	"date" date NOT NULL,
	"product_id" text NOT NULL,
	"product_kg_ha" double precision NOT NULL,
	"placement_id" text NOT NULL,
	"status" text NOT NULL,
	"price_per_t" double precision
);
--> statement-breakpoint
CREATE TABLE "field_seasons" (
	"id" text PRIMARY KEY NOT NULL,
	"field_id" text NOT NULL,
	"label" text NOT NULL,
	"start_date" date NOT NULL,
	"soil_sample_id" text,
	"crop_key" text,
	"use" text,
	"yield_goal_t_ha" double precision,
	"yield_history_t_ha" jsonb NOT NULL,
	"protein_target_pct" double precision,
	"legume_share" double precision,
	"planting_year" double precision,
	"planting_date" date,
	"harvest_date" date,
	"straw_removed_frac" double precision NOT NULL,
	"crop_price_per_t" double precision,
	"eaten_raw" boolean NOT NULL,
	"touches_soil" boolean NOT NULL,
	"winter_drainage_mm" double precision NOT NULL,
	"spring_drainage_mm" double precision NOT NULL,
	"moisture_class" text NOT NULL,
	"soil_temp_season_c" double precision,
	"release_days" double precision,
	"deposition_n_kg_ha" double precision,
	"deposition_s_kg_ha" double precision,
	"nitrate_sample_date" date,
	"manure_history" text NOT NULL,
	"irrigation" jsonb,
	"crop_n" jsonb,
	"struck" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "fields" (
	"id" text PRIMARY KEY NOT NULL,
	"farm_id" text NOT NULL,
	"name" text NOT NULL,
	"area_ha" double precision NOT NULL,
	"outline" jsonb,
	"soil_texture_id" text NOT NULL,
	"om_pct" double precision,
	"om_depth_cm" double precision DEFAULT 20 NOT NULL,
	"cec_cmol_kg" double precision,
	"tenure" text NOT NULL,
	"certification" text NOT NULL,
	"position" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "lab_mappings" (
	"farm_id" text NOT NULL,
	"laboratory" text NOT NULL,
	"mapping" jsonb NOT NULL,
	CONSTRAINT "lab_mappings_farm_id_laboratory_pk" PRIMARY KEY("farm_id","laboratory")
);
--> statement-breakpoint
CREATE TABLE "memberships" (
	"person_id" text NOT NULL,
	"farm_id" text NOT NULL,
	"role" text NOT NULL,
	CONSTRAINT "memberships_person_id_farm_id_pk" PRIMARY KEY("person_id","farm_id")
);
--> statement-breakpoint
CREATE TABLE "nitrate_layers" (
	"season_id" text NOT NULL,
	"position" integer NOT NULL,
	"top_cm" double precision NOT NULL,
	"bottom_cm" double precision NOT NULL,
	"no3n_mg_kg" double precision NOT NULL,
	"bulk_density_g_cm3" double precision,
	"stones_vol_frac" double precision,
	CONSTRAINT "nitrate_layers_season_id_position_pk" PRIMARY KEY("season_id","position")
);
--> statement-breakpoint
CREATE TABLE "organic_applications" (
	"id" text PRIMARY KEY NOT NULL,
	"season_id" text NOT NULL,
	"position" integer NOT NULL,
	"date" date NOT NULL,
	"material_key" text NOT NULL,
	"status" text NOT NULL,
	"crop_year" double precision NOT NULL,
	"rate" double precision NOT NULL,
	"rate_unit" text NOT NULL,
	"method_key" text NOT NULL,
	"lab" jsonb,
	"coverings" jsonb NOT NULL,
	"planned_hours" double precision,
	"temp_c" double precision,
	"wind_m_s" double precision,
	"soil" text NOT NULL,
	"cover" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "plan_versions" (
	"id" text PRIMARY KEY NOT NULL,
	"season_id" text NOT NULL,
	"number" integer NOT NULL,
	"status" text NOT NULL,
	"season_version" integer NOT NULL,
	"plan" jsonb NOT NULL,
	"sheet" jsonb NOT NULL,
	"proposed_by" text NOT NULL,
	"proposed_at" timestamp with time zone NOT NULL,
	"decided_by" text,
	"decided_at" timestamp with time zone,
	"comment" text
);
--> statement-breakpoint
CREATE TABLE "previous_crops" (
	"season_id" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"detail" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "soil_results" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"sample_id" text NOT NULL,
	"position" integer NOT NULL,
	"nutrient" text NOT NULL,
	"extractant" text NOT NULL,
	"value" double precision NOT NULL,
	"unit" text NOT NULL,
	"below_detection" boolean NOT NULL
);
--> statement-breakpoint
CREATE TABLE "soil_samples" (
	"id" text PRIMARY KEY NOT NULL,
	"field_id" text NOT NULL,
	"date" date NOT NULL,
	"label" text,
	"laboratory" text,
	"depth_cm" double precision,
	"n_cores" double precision,
	"moisture" text,
	"ph_water" double precision,
	"ph_cacl2" double precision
);
--> statement-breakpoint
CREATE TABLE "tissue_results" (
	"sample_id" text NOT NULL,
	"nutrient" text NOT NULL,
	"reported" text NOT NULL,
	"unit" text NOT NULL,
	CONSTRAINT "tissue_results_sample_id_nutrient_pk" PRIMARY KEY("sample_id","nutrient")
);
--> statement-breakpoint
CREATE TABLE "tissue_samples" (
	"id" text PRIMARY KEY NOT NULL,
	"field_id" text NOT NULL,
	"crop_key" text NOT NULL,
	"date" date NOT NULL,
	"part" text NOT NULL,
	"bbch" double precision NOT NULL,
	"system" text,
	"n_organs" double precision,
	"washed" text NOT NULL,
	"spray_elements" jsonb NOT NULL,
	"days_since_spray" double precision,
	"role" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "waiting_rows" (
	"id" text PRIMARY KEY NOT NULL,
	"farm_id" text NOT NULL,
	"laboratory" text NOT NULL,
	"file_name" text NOT NULL,
	"row" integer NOT NULL,
	"cells" jsonb NOT NULL,
	"problems" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "fertiliser_passes" ADD CONSTRAINT "fertiliser_passes_season_id_field_seasons_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."field_seasons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD CONSTRAINT "field_seasons_field_id_fields_id_fk" FOREIGN KEY ("field_id") REFERENCES "public"."fields"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD CONSTRAINT "field_seasons_soil_sample_id_soil_samples_id_fk" FOREIGN KEY ("soil_sample_id") REFERENCES "public"."soil_samples"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fields" ADD CONSTRAINT "fields_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lab_mappings" ADD CONSTRAINT "lab_mappings_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "memberships" ADD CONSTRAINT "memberships_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "memberships" ADD CONSTRAINT "memberships_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "nitrate_layers" ADD CONSTRAINT "nitrate_layers_season_id_field_seasons_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."field_seasons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "organic_applications" ADD CONSTRAINT "organic_applications_season_id_field_seasons_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."field_seasons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_versions" ADD CONSTRAINT "plan_versions_season_id_field_seasons_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."field_seasons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_versions" ADD CONSTRAINT "plan_versions_proposed_by_people_id_fk" FOREIGN KEY ("proposed_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_versions" ADD CONSTRAINT "plan_versions_decided_by_people_id_fk" FOREIGN KEY ("decided_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "previous_crops" ADD CONSTRAINT "previous_crops_season_id_field_seasons_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."field_seasons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "soil_results" ADD CONSTRAINT "soil_results_sample_id_soil_samples_id_fk" FOREIGN KEY ("sample_id") REFERENCES "public"."soil_samples"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD CONSTRAINT "soil_samples_field_id_fields_id_fk" FOREIGN KEY ("field_id") REFERENCES "public"."fields"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tissue_results" ADD CONSTRAINT "tissue_results_sample_id_tissue_samples_id_fk" FOREIGN KEY ("sample_id") REFERENCES "public"."tissue_samples"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tissue_samples" ADD CONSTRAINT "tissue_samples_field_id_fields_id_fk" FOREIGN KEY ("field_id") REFERENCES "public"."fields"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waiting_rows" ADD CONSTRAINT "waiting_rows_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "audit_farm" ON "audit" USING btree ("farm_id");--> statement-breakpoint
CREATE INDEX "fertiliser_passes_season" ON "fertiliser_passes" USING btree ("season_id");--> statement-breakpoint
CREATE UNIQUE INDEX "field_seasons_label" ON "field_seasons" USING btree ("field_id","label");--> statement-breakpoint
CREATE INDEX "fields_farm" ON "fields" USING btree ("farm_id");--> statement-breakpoint
CREATE INDEX "organic_applications_season" ON "organic_applications" USING btree ("season_id");--> statement-breakpoint
CREATE UNIQUE INDEX "plan_versions_number" ON "plan_versions" USING btree ("season_id","number");--> statement-breakpoint
CREATE INDEX "soil_results_sample" ON "soil_results" USING btree ("sample_id");--> statement-breakpoint
CREATE INDEX "soil_samples_field" ON "soil_samples" USING btree ("field_id");--> statement-breakpoint
CREATE INDEX "tissue_samples_field" ON "tissue_samples" USING btree ("field_id");