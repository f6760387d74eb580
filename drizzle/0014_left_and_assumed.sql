ALTER TABLE "field_seasons" ADD COLUMN "left" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "field_seasons" ADD COLUMN "assumed" jsonb DEFAULT '[]'::jsonb NOT NULL;