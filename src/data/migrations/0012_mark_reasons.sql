ALTER TABLE "mark" ALTER COLUMN "reason" SET DATA TYPE jsonb USING to_jsonb("reason");--> statement-breakpoint
UPDATE "mark" SET "detail" = replace("detail"::text, '"marking.tries.', '"attempt.tries.')::jsonb;--> statement-breakpoint
UPDATE "person_notice" SET "text" = replace(replace(replace(replace(replace(replace("text"::text,
  '"attempts.mark-queries.', '"marking.mark-queries.'), '"quizzes.return-work.', '"marking.return-work.'),
  '"notices.tell-opened.', '"jobs.tell-opened.'), '"notices.tell-shown.', '"jobs.tell-shown.'),
  '"attempt.state.', '"attempt.answered-words.'), '"profile.device-words.', '"sign-in.device-words.')::jsonb;
