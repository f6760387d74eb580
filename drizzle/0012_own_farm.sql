CREATE TABLE "removed" (
	"id" text PRIMARY KEY NOT NULL,
	"farm_id" text NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"author" text NOT NULL,
	"removed_on" date NOT NULL,
	"rows" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "farms" ADD COLUMN "longitude_deg" double precision;--> statement-breakpoint
ALTER TABLE "removed" ADD CONSTRAINT "removed_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "removed_farm" ON "removed" USING btree ("farm_id");