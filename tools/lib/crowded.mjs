import { randomUUID } from "node:crypto";

/**
 * Fills a course of the demo: 200 more pieces of work in its gradebook, each with an attempt of Noor's on a day of its
 * own, 45 of them still open, so that sixty quizzes stand on her Today.
 */
export async function crowd(sql) {
  const [nav] = await sql`select q.course_id, q.instructor_id, q.settings, v.content, v.facts from quiz q
    join quiz_version v on v.quiz_id = q.id where q.title = 'Tides and clearances'`;
  const [category] = await sql`select id from gradebook_category where title = 'Written work'`;
  const [noor] = await sql`select id from person where email = 'noor.haldane@alderquay.example'`;
  for (let i = 0; i < 200; i += 1) {
    const [id, version] = [randomUUID(), randomUUID()];
    const days = i < 45 ? 2 : -30;
    await sql`insert into quiz (id, course_id, title, opens, due, closes, instructor_id, settings)
      values (${id}, ${nav.course_id}, ${`Extra ${i}`}, now() - interval '90 days', now() + make_interval(days => ${days}), now() + make_interval(days => ${days}), ${nav.instructor_id}, ${sql.json(nav.settings)})`;
    await sql`insert into quiz_version (id, quiz_id, number, content, facts)
      values (${version}, ${id}, 1, ${sql.json(nav.content)}, ${sql.json(nav.facts)})`;
    await sql`insert into gradebook_item (id, category_id, quiz_id, title, maximum, position)
      values (${randomUUID()}, ${category.id}, ${id}, ${`Extra ${i}`}, 30, ${i + 9})`;
    await sql`insert into attempt (id, quiz_id, version_id, person_id, number, seed, started_at, handed_in_at, handed_in_by, earned, awaited, maximum)
      values (${randomUUID()}, ${id}, ${version}, ${noor.id}, 1, 's', now() - make_interval(days => ${200 - i}), now() - make_interval(days => ${200 - i}), 'student', ${i % 31}, ${i % 7 === 0 ? 1 : 0}, 30)`;
  }
}
