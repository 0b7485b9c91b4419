DROP INDEX "verdicts_submission";--> statement-breakpoint
ALTER TABLE "verdicts" ADD COLUMN "close" boolean GENERATED ALWAYS AS (result is null or jsonb_path_exists(result, '$.items[*] ? (@.close == true)')) STORED;--> statement-breakpoint
CREATE INDEX "exercises_course" ON "exercises" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "memberships_person" ON "memberships" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "submissions_of_exercise" ON "submissions" USING btree ("exercise_id","person_id","id");--> statement-breakpoint
CREATE INDEX "verdicts_newest" ON "verdicts" USING btree ("submission_id","checked_at","close");