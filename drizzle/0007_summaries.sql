CREATE SEQUENCE "public"."summary_revision" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1;--> statement-breakpoint
CREATE TABLE "farm_sums" (
	"farm_id" text PRIMARY KEY NOT NULL,
	"stamp" text NOT NULL,
	"document" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "field_summaries" (
	"field_id" text PRIMARY KEY NOT NULL,
	"farm_id" text NOT NULL,
	"touched" integer DEFAULT 1 NOT NULL,
	"reckoned" integer,
	"reckoned_on" date,
	"reckoned_by" text,
	"revision" bigint,
	"season_id" text,
	"document" jsonb
);
--> statement-breakpoint
DROP INDEX "fields_farm";--> statement-breakpoint
ALTER TABLE "farm_sums" ADD CONSTRAINT "farm_sums_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "field_summaries" ADD CONSTRAINT "field_summaries_field_id_fields_id_fk" FOREIGN KEY ("field_id") REFERENCES "public"."fields"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "field_summaries" ADD CONSTRAINT "field_summaries_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "field_summaries_farm" ON "field_summaries" USING btree ("farm_id");--> statement-breakpoint
CREATE INDEX "fields_in_order" ON "fields" USING btree ("farm_id","position","name","id");--> statement-breakpoint
INSERT INTO "field_summaries" ("field_id", "farm_id") SELECT "id", "farm_id" FROM "fields";--> statement-breakpoint
-- Whatever a summary is reckoned from touches it when it is written, by whichever door. Set by set: one update a statement.
CREATE FUNCTION "touch_summaries"() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  changed text;
BEGIN
  IF TG_OP = 'UPDATE' THEN
    changed := '(SELECT * FROM "after_rows" UNION ALL SELECT * FROM "before_rows")';
  ELSIF TG_OP = 'INSERT' THEN
    changed := '"after_rows"';
  ELSE
    changed := '"before_rows"';
  END IF;
  EXECUTE 'UPDATE "field_summaries" SET "touched" = "touched" + 1 WHERE "field_id" IN ('
    || format(TG_ARGV[0], changed) || ')';
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION "begin_summaries"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO "field_summaries" ("field_id", "farm_id") SELECT "id", "farm_id" FROM "after_rows";
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER "summaries_begin" AFTER INSERT ON "fields" REFERENCING NEW TABLE AS "after_rows"
  FOR EACH STATEMENT EXECUTE FUNCTION "begin_summaries"();--> statement-breakpoint
DO $$
DECLARE
  t record;
BEGIN
  FOR t IN SELECT * FROM (VALUES
    ('fields', 'SELECT "id" FROM %s AS c'),
    ('field_seasons', 'SELECT "field_id" FROM %s AS c'),
    ('soil_samples', 'SELECT "field_id" FROM %s AS c'),
    ('nitrate_profiles', 'SELECT "field_id" FROM %s AS c'),
    ('tissue_samples', 'SELECT "field_id" FROM %s AS c'),
    ('previous_crops', 'SELECT s."field_id" FROM %s AS c JOIN "field_seasons" s ON s."id" = c."season_id"'),
    ('organic_applications', 'SELECT s."field_id" FROM %s AS c JOIN "field_seasons" s ON s."id" = c."season_id"'),
    ('fertiliser_passes', 'SELECT s."field_id" FROM %s AS c JOIN "field_seasons" s ON s."id" = c."season_id"'),
    ('soil_results', 'SELECT s."field_id" FROM %s AS c JOIN "soil_samples" s ON s."id" = c."sample_id"'),
    ('tissue_results', 'SELECT s."field_id" FROM %s AS c JOIN "tissue_samples" s ON s."id" = c."sample_id"'),
    ('farms', 'SELECT f."id" FROM %s AS c JOIN "fields" f ON f."farm_id" = c."id"'),
    ('library_changes', 'SELECT f."id" FROM %s AS c JOIN "fields" f ON f."farm_id" = c."farm_id"')
  ) AS x(name, fields) LOOP
    EXECUTE format('CREATE TRIGGER "summaries_update" AFTER UPDATE ON %I REFERENCING OLD TABLE AS "before_rows" NEW TABLE AS "after_rows" FOR EACH STATEMENT EXECUTE FUNCTION "touch_summaries"(%L)', t.name, t.fields);
    EXECUTE format('CREATE TRIGGER "summaries_delete" AFTER DELETE ON %I REFERENCING OLD TABLE AS "before_rows" FOR EACH STATEMENT EXECUTE FUNCTION "touch_summaries"(%L)', t.name, t.fields);
    IF t.name <> 'fields' THEN
      EXECUTE format('CREATE TRIGGER "summaries_insert" AFTER INSERT ON %I REFERENCING NEW TABLE AS "after_rows" FOR EACH STATEMENT EXECUTE FUNCTION "touch_summaries"(%L)', t.name, t.fields);
    END IF;
  END LOOP;
END $$;
