CREATE TABLE "imports" (
	"id" text PRIMARY KEY NOT NULL,
	"farm_id" text NOT NULL,
	"laboratory" text NOT NULL,
	"file_name" text NOT NULL,
	"author" text NOT NULL,
	"imported_on" date NOT NULL,
	"document" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_farm_id_farms_id_fk" FOREIGN KEY ("farm_id") REFERENCES "public"."farms"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "imports_farm" ON "imports" USING btree ("farm_id");