ALTER TABLE "submissions" DROP CONSTRAINT "submissions_person_id_key_unique";--> statement-breakpoint
ALTER TABLE "saved_answers" ADD COLUMN "revision" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "saved_answers" ADD COLUMN "page" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "saved_answers" ADD COLUMN "count" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "new_numbers" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "submissions" ADD CONSTRAINT "submissions_person_id_exercise_id_part_id_key_unique" UNIQUE("person_id","exercise_id","part_id","key");