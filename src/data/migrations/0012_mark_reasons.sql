ALTER TABLE "mark" ALTER COLUMN "reason" SET DATA TYPE jsonb USING to_jsonb("reason");--> statement-breakpoint
UPDATE "mark" SET "detail" = replace("detail"::text, '"marking.tries.', '"attempt.tries.')::jsonb
  WHERE "detail"::text LIKE '%"marking.tries.%';--> statement-breakpoint
UPDATE "person_notice" SET "text" = replace(replace(replace(replace(replace(replace(replace(replace(replace(replace("text"::text,
  '"attempts.settle.', '"server.attempts.settle.'),
  '"attempts.mark-queries.', '"server.marking.mark-queries.'),
  '"quizzes.return-work.', '"server.marking.return-work.'),
  '"quizzes.move-window.', '"server.quizzes.move-window.'),
  '"quizzes.extend-running.', '"server.quizzes.extend-running.'),
  '"notices.tell-opened.', '"server.jobs.tell-opened.'),
  '"notices.tell-shown.', '"server.jobs.tell-shown.'),
  '"sign-in.', '"server.sign-in.'),
  '"profile.device-words.', '"server.sign-in.device-words.'),
  '"attempt.state.', '"attempt.answered-words.')::jsonb;
