CREATE TABLE "hints_taken" (
	"exercise_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"part_id" text NOT NULL,
	"number" integer NOT NULL,
	"cost" double precision NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "hints_taken_exercise_id_person_id_part_id_number_pk" PRIMARY KEY("exercise_id","person_id","part_id","number")
);
--> statement-breakpoint
CREATE TABLE "practised" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"exercise_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"part_id" text NOT NULL,
	"met" boolean NOT NULL,
	"slip" text,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "submissions" ADD COLUMN "hint_cost" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "hints_taken" ADD CONSTRAINT "hints_taken_exercise_id_exercises_id_fk" FOREIGN KEY ("exercise_id") REFERENCES "public"."exercises"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hints_taken" ADD CONSTRAINT "hints_taken_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practised" ADD CONSTRAINT "practised_exercise_id_exercises_id_fk" FOREIGN KEY ("exercise_id") REFERENCES "public"."exercises"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practised" ADD CONSTRAINT "practised_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "practised_person" ON "practised" USING btree ("person_id","exercise_id","part_id","at");--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE ON hints_taken FOR EACH ROW EXECUTE FUNCTION refuse_change();
