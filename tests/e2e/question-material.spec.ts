import { expectAccessible } from "../support/accessible";
import { expect, goTo, handIn, startFromBrief, test } from "../support/house";

test("what a section is about stands above each of its questions, and of no other, at the desk and on the paper", async ({
  page,
  house,
}) => {
  await house.signIn(page, "noor.haldane");
  await startFromBrief(page, house, "Formulas for the bakery");
  const about = page.locator("details", { hasText: "For all questions of this section" });
  await expect(about).toContainText("The house loaf");
  await expectAccessible(page, "a question with what its section is about");
  // It can be put away, and the next section has none.
  await about.locator("summary").click();
  await expect(about.getByText("The house loaf")).toBeHidden();
  await goTo(page, 2);
  await expect(page.getByRole("region", { name: "Question 2 of 4" })).toBeVisible();
  await expect(about).toHaveCount(0);
  await handIn(page);
  await page.getByRole("link", { name: "What was handed in" }).click();
  await expect(about).toHaveCount(1);
  await expect(about).toContainText("The house loaf");
});

test("a film is played in the page, with its words below; its place is kept while it comes, and it is there without a network", async ({
  page,
  house,
}) => {
  await house.signIn(page, "greta.nwosu");
  const fetched = page.waitForResponse(
    (answer) => /\/recordings\//.test(answer.url()) && answer.status() === 200,
  );
  await startFromBrief(page, house, "Bees and flowers, on one page");
  await fetched;
  await goTo(page, 6);
  const film = page.locator("video");
  await expect(film).toBeInViewport();
  await expect(film).toHaveAttribute("aria-label", /dance on the comb/);
  await expect.poll(() => film.evaluate((video: HTMLVideoElement) => video.duration)).toBeGreaterThan(15);
  const { width = 0, height = 0 } = (await film.boundingBox()) ?? {};
  expect(width / height).toBeCloseTo(4 / 3, 1);
  await expectAccessible(page, "a question with a film");
  await page.getByText("What is seen, in words").click();
  await expect(page.getByText("sixty degrees from the vertical")).toBeVisible();
  await film.evaluate((video: HTMLVideoElement) => {
    video.muted = true;
    return video.play();
  });
  await expect.poll(() => film.evaluate((video: HTMLVideoElement) => video.currentTime)).toBeGreaterThan(0.5);
});

test("a sound that was asked about can be heard again on the paper", async ({ page, house }) => {
  await house.signIn(page, "noor.haldane");
  await page.goto(`${house.url}/gradebook/nav-110`);
  await page.getByRole("link", { name: "Half-term paper", exact: true }).click();
  await page.getByRole("link", { name: "All on one page" }).click();
  const sound = page.locator("audio");
  await expect(sound).toHaveCount(1);
  await sound.evaluate((audio: HTMLAudioElement) => audio.load());
  await expect.poll(() => sound.evaluate((audio: HTMLAudioElement) => audio.duration)).toBeGreaterThan(12);
  // What six questions are about is said above the first of them.
  await expect(page.getByText("Quay Creek, differences from Alder Quay")).toHaveCount(1);
  await expectAccessible(page, "a paper with a stimulus and a sound");
});
