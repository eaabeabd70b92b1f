import { REVEALED, type RevealWhen } from "../../src/core/quiz/rules";
import { expect, House, test } from "../support/house";
import { ANSWERS, markEssay, missingFrom, onlyShown, shownIn, writeWork } from "../support/marked-work";

/**
 * Every page and endpoint, over the network: what they send of a handed-in attempt under each reveal setting, before and
 * after its time, to each role. The exact instants are tested beside the use cases.
 */
const SETTINGS: readonly RevealWhen[] = [
  "at-hand-in",
  "after-due",
  "after-closing",
  "when-returned",
  "never",
  { on: "2031-01-01T00:00:00Z" },
];

/** What a response says: where something is drawn is left out, as a place may have the same figure as a mark. */
const said = ({ text }: { readonly text: string }): string =>
  text.replace(/\b(?:x|x1|x2|y|cx|cy|d|width|height)="[^"]*"/g, "");

let house: House;
test.beforeAll(async () => {
  house = await House.open();
});
test.afterAll(async () => {
  await house.close();
});

for (const when of SETTINGS) {
  test(`shown ${JSON.stringify(when)}: no response holds anything before its time, or of what is not shown`, async ({
    request,
  }) => {
    test.setTimeout(120_000);
    const { sql } = house;
    const owner = await house.caller(request, "keziah.rowden");
    const outsiders = await Promise.all(
      ["ottoline.diaz", "camila.thornbury", "yuki.brandvold"].map((name) => house.caller(request, name)),
    );
    const instructor = await house.caller(request, "adaeze.okafor");
    const nobody = await house.caller(request, null);

    for (const what of REVEALED) {
      const { quizId } = await writeWork(
        sql,
        "pol-101",
        `Work ${what} ${typeof when === "string" ? when : "on a date"}`,
        onlyShown(what, when),
      );
      const { attemptId } = (await owner.post(`/api/quizzes/${quizId}/attempts`, {})).json;
      await owner.post(`/api/attempts/${attemptId}/begin`, {});
      const saved = await owner.post(`/api/attempts/${attemptId}/save`, {
        here: 1,
        entries: ANSWERS.map((answer, i) => ({
          slot: i + 1,
          answer,
          ribbon: false,
          ruledOut: [],
          revision: i + 1,
          device: "0b0f6d8e-9f51-4b5b-9a53-1d2c3b4a5f60",
          writtenAt: Date.now(),
        })),
      });
      expect(saved.status, saved.text).toBe(200);
      expect((await owner.post(`/api/attempts/${attemptId}/hand-in`, {})).status).toBe(200);
      await markEssay(sql, attemptId);
      const [item] = await sql`select id from gradebook_item where quiz_id = ${quizId}`;

      const papers = [
        `/attempts/${attemptId}/paper`,
        `/attempts/${attemptId}/paper?all`,
        `/attempts/${attemptId}/paper?q=3`,
        `/attempts/${attemptId}/paper?missed`,
      ];
      const written = [`/attempts/${attemptId}/handed-in`, `/attempts/${attemptId}/slip.txt`];
      const totals = [
        "/today",
        "/courses/pol-101",
        `/quizzes/${quizId}`,
        "/gradebook/pol-101",
        `/gradebook/pol-101?class=${item?.id}`,
        "/gradebook/pol-101/marks.csv",
        // The slip tells the result as far as it may be told.
        `/attempts/${attemptId}/slip`,
      ];
      const nothing = [
        `/attempts/${attemptId}`,
        `/api/attempts/${attemptId}`,
        `/api/attempts/${attemptId}/pages`,
        "/courses/pol-101/plan",
        "/notices",
      ];
      const walk = async (isShown: boolean) => {
        const shows = (...some: readonly string[]) => (isShown && some.includes(what) ? [what] : []);
        for (const path of papers) {
          const text = said(await owner.get(path));
          // A page of one question, or of those that were missed, shows of all only what it is about.
          const found = shownIn(text);
          expect(
            found.filter((each) => each !== what || !isShown),
            `${what} ${path}`,
          ).toEqual([]);
          if (path.endsWith("?all") && isShown) {
            expect(
              missingFrom(text, what).filter((marker) => marker !== "WORDING-RHO"),
              path,
            ).toEqual([]);
          }
        }
        for (const path of written) {
          expect(shownIn(said(await owner.get(path))), `${what} ${path}`).toEqual(shows("written"));
        }
        // Today tells of marks that were not read yet; the papers above were.
        await house.sql`update attempt set paper_read_at = null where id = ${attemptId}`;
        for (const path of totals) {
          // Other work of this student stands on these pages too, with the same marks.
          const before = baseline.get(path) ?? 0;
          const text = said(await owner.get(path));
          const count = text.split("79.46").length - 1;
          expect(count > before, `${what} ${path}: ${before} before, ${count} now`).toBe(
            shows("total").length > 0 && path !== "/courses/pol-101",
          );
          expect(
            shownIn(text).filter((each) => each !== "total"),
            `${what} ${path}`,
          ).toEqual([]);
        }
        for (const path of nothing) {
          expect(shownIn(said(await owner.get(path))), `${what} ${path}`).toEqual([]);
        }
        for (const other of outsiders) {
          for (const path of [...papers, ...written, `/attempts/${attemptId}/slip`, ...nothing.slice(0, 3)]) {
            const answer = await other.get(path);
            expect([answer.status, ...shownIn(answer.text)], `${what} ${path}`).toEqual([404]);
          }
        }
        for (const path of [...papers, ...written, ...totals, ...nothing]) {
          expect(shownIn((await nobody.get(path)).text), path).toEqual([]);
        }
        // Who teaches it reads all of it.
        expect(shownIn((await instructor.get(`/attempts/${attemptId}/paper?all`)).text)).toEqual([
          ...REVEALED,
        ]);
      };

      // What these pages show without this attempt's total: hidden for a moment.
      const baseline = new Map<string, number>();
      await sql`update attempt set earned = 0.01 where id = ${attemptId}`;
      for (const path of totals) {
        baseline.set(path, said(await owner.get(path)).split("79.46").length - 1);
      }
      await sql`update attempt set earned = 79.46 where id = ${attemptId}`;

      if (when === "at-hand-in") await walk(true);
      else {
        await walk(false);
        if (when === "after-due") {
          await sql`update quiz set opens = now() - interval '2 hours', due = now() - interval '1 second' where id = ${quizId}`;
          if (what === "right" || what === "worked") {
            // Late work is taken until closing: its writers must not know.
            await walk(false);
            await sql`update quiz set closes = now() - interval '1 second' where id = ${quizId}`;
          }
        } else if (when === "after-closing") {
          await sql`update quiz set opens = now() - interval '2 hours', due = now() - interval '1 second', closes = now() - interval '1 second' where id = ${quizId}`;
        } else if (when === "when-returned") {
          await sql`update attempt set returned_at = now() where id = ${attemptId}`;
        } else continue;
        await walk(true);
      }
    }
  });
}
