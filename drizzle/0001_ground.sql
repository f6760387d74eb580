CREATE TABLE "claims" (
	"id" text PRIMARY KEY NOT NULL,
	"field_id" text NOT NULL,
	"checked_on" date NOT NULL,
	"product" text NOT NULL,
	"input" jsonb NOT NULL,
	"verdict" text NOT NULL,
	"message" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sampling_plans" (
	"id" text PRIMARY KEY NOT NULL,
	"field_id" text NOT NULL,
	"created_on" date NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "lime" jsonb;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "boron_last_year_kg_ha" double precision;--> statement-breakpoint
ALTER TABLE "fields" ADD COLUMN "clay_pct" double precision;--> statement-breakpoint
ALTER TABLE "fields" ADD COLUMN "tillage" text;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "n_points" double precision;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "buffer_kind" text;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "buffer_ph" double precision;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "al_cmol_kg" double precision;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "om_pct" double precision;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "cec_cmol_kg" double precision;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "depth_from_cm" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "kind" text DEFAULT 'composite' NOT NULL;--> statement-breakpoint
ALTER TABLE "soil_samples" ADD COLUMN "sampling_plan_id" text;--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claims_field_id_fields_id_fk" FOREIGN KEY ("field_id") REFERENCES "public"."fields"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sampling_plans" ADD CONSTRAINT "sampling_plans_field_id_fields_id_fk" FOREIGN KEY ("field_id") REFERENCES "public"."fields"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "claims_field" ON "claims" USING btree ("field_id");--> statement-breakpoint
CREATE INDEX "sampling_plans_field" ON "sampling_plans" USING btree ("field_id");--> statement-breakpoint
ALTER TABLE "soil_samples" ADD CONSTRAINT "soil_samples_sampling_plan_id_sampling_plans_id_fk" FOREIGN KEY ("sampling_plan_id") REFERENCES "public"."sampling_plans"("id") ON DELETE set null ON UPDATE no action;