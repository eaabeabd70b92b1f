ALTER TABLE "mark" ALTER COLUMN "reason" SET DATA TYPE jsonb USING to_jsonb("reason");--> statement-breakpoint
UPDATE "mark" SET "detail" = replace(replace("detail"::text, '"marking.tries.', '"attempt.tries.'),
  '"marking.by-hand.', '"marking.hand-mark.')::jsonb
  WHERE "detail"::text LIKE '%"marking.%';--> statement-breakpoint
UPDATE "person_notice" SET "text" = replace(replace(replace(replace(replace(replace(replace(replace(replace(replace("text"::text,
  '"attempts.settle.', '"server.attempts.settle.'),
  '"attempts.mark-queries.', '"server.marking.mark-queries.'),
  '"quizzes.return-work.', '"server.marking.return-work.'),
  '"quizzes.move-window.', '"server.quizzes.move-window.'),
  '"quizzes.extend-running.', '"server.quizzes.extend-running.'),
  '"notices.tell-opened.', '"server.jobs.notify-opened.'),
  '"notices.tell-shown.', '"server.jobs.notify-shown.'),
  '"sign-in.', '"server.sign-in.'),
  '"profile.device-words.', '"server.sign-in.device-words.'),
  '"attempt.state.', '"attempt.answered-words.')::jsonb;
