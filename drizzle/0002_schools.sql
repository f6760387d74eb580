ALTER TABLE "field_seasons" ADD COLUMN "schools" jsonb;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "residue" jsonb;