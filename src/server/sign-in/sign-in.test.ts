import { afterEach, describe, expect, test, vi } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { timeCode } from "../../../tests/support/time-code";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { signIn } = await import("./sign-in");
const { confirmSecondFactor, beginSecondFactor, endSecondFactor, signInWithCode } = await import(
  "./second-factor"
);
const { changePassword } = await import("../profile/change-password");
const { confirmPassword } = await import("./confirm-password");
const { endOtherSessions } = await import("../profile/profile");
const { sessionToken, viewerOf } = await import("../access/viewer");
const accounts = await import("./accounts");

const RIGHT = "quiet harbour";
const addressOf = (name: string) => `${name}@alderquay.example`;
const headersWith = (cookies: readonly string[] = []) =>
  new Headers({ "user-agent": "test", cookie: cookies.map((each) => each.split(";")[0]).join("; ") });
const come = (
  name: string,
  password: string,
  from: { address?: string; cookies?: readonly string[]; shared?: "yes" | "" } = {},
) =>
  signIn(
    { email: addressOf(name), password, shared: from.shared ?? "" },
    { address: from.address ?? "192.0.2.1", headers: headersWith(from.cookies) },
  );
const cookieIn = (cookies: readonly string[], name: string) =>
  cookies.find((each) => each.includes(`shizuka.${name}=`));
const tokenIn = (cookies: readonly string[]) =>
  sessionToken(decodeURIComponent(/=([^;]*)/.exec(cookieIn(cookies, "session_token") ?? "")?.[1] ?? ""));
const mailsTo = async (name: string) =>
  (
    await sql`select n.kind from person_notice n join person p on p.id = n.person_id
      where p.email = ${addressOf(name)} and n.kind in ('new-device', 'sign-in-changed') and n.mail = 'waiting' order by n.created_at`
  ).map(({ kind }) => kind);

afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe("tries are counted before anything is looked at", () => {
  test("of thirty at once, eight passwords are looked at, and the others hear how long to wait", async () => {
    const look = vi.spyOn(accounts.accounts().api, "signInEmail");
    const answers = await Promise.allSettled(
      Array.from({ length: 30 }, (_, i) => come("bao.lindqvist", `guess number ${i}`)),
    );
    const statuses = answers.map((each) => (each.status === "rejected" ? each.reason.status : 200));
    expect(statuses.filter((status) => status === 401)).toHaveLength(8);
    expect(statuses.filter((status) => status === 429)).toHaveLength(22);
    expect(look).toHaveBeenCalledTimes(8);
    const { reason } = answers.find((each) => each.status === "rejected" && each.reason.status === 429) as {
      reason: { sentence: string; more: { retryAfter: number } };
    };
    expect(reason.more.retryAfter).toBeLessThanOrEqual(22);
    expect(reason.sentence).toContain(`Try again in ${reason.more.retryAfter} seconds`);
  });

  test("a stranger's wrong tries shut nobody out: not from elsewhere, and not from a known browser in the same house", async () => {
    const { cookies } = await come("camila.thornbury", RIGHT);
    for (let i = 0; i < 12; i += 1) await come("camila.thornbury", "wrong").catch(() => {});
    await expect(come("camila.thornbury", RIGHT)).rejects.toMatchObject({ status: 429 });
    const elsewhere = await come("camila.thornbury", RIGHT, { address: "198.51.100.7" });
    expect(elsewhere.cookies.length).toBeGreaterThan(0);
    for (let i = 0; i < 12; i += 1) await come("camila.thornbury", "wrong").catch(() => {});
    const known = cookieIn(cookies, "device") ?? "";
    expect((await come("camila.thornbury", RIGHT, { cookies: [known] })).asksForCode).toBe(false);
  });

  test("whoever hammers on waits no longer than a moment after the last try", async () => {
    for (let i = 0; i < 200; i += 1) await come("dmitri.aske", "wrong").catch(() => {});
    // Nobody else behind the same address has to wait for that.
    expect((await come("priya.sandoval", RIGHT)).asksForCode).toBe(false);
    vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + 23_000 });
    await expect(come("dmitri.aske", "wrong again")).rejects.toMatchObject({ status: 401 });
  });

  test("a known browser's own guesses are slowed too, and it is nobody else's known browser", async () => {
    const { cookies } = await come("efua.moorcroft", RIGHT);
    const known = [cookieIn(cookies, "device") ?? ""];
    for (let i = 0; i < 8; i += 1) await come("efua.moorcroft", "wrong", { cookies: known }).catch(() => {});
    await expect(come("efua.moorcroft", RIGHT, { cookies: known })).rejects.toMatchObject({ status: 429 });
    const [count] =
      await sql`select count(*)::int as n from try_pace where who like 'person and network greta%'`;
    await come("greta.nwosu", "wrong", { cookies: known }).catch(() => {});
    const [after] =
      await sql`select count(*)::int as n from try_pace where who like 'person and network greta%'`;
    expect(after?.n).toBe(count?.n + 1);
  });

  test("the present password in the profile is not there to be guessed", async () => {
    const farid = await viewer("farid.kjeldsen");
    const answers = await Promise.allSettled(
      Array.from({ length: 20 }, (_, i) => confirmPassword(farid, `guess ${i}`)),
    );
    const statuses = answers.map((each) => (each.status === "rejected" ? each.reason.status : 200));
    expect(statuses.filter((status) => status === 422)).toHaveLength(8);
    expect(statuses.filter((status) => status === 429)).toHaveLength(12);
  });
});

test("an address that is none, one that is unknown and one that is known are refused in the same words and by the same work", async () => {
  const refusals = [];
  for (const email of ["no address", "nobody@alderquay.example", addressOf("hamid.castellane")]) {
    const from = performance.now();
    const refused = await signIn(
      { email, password: "wrong", shared: "" },
      { address: "192.0.2.9", headers: headersWith() },
    ).catch((error) => error);
    refusals.push({ sentence: refused.sentence, took: performance.now() - from });
  }
  expect(new Set(refusals.map(({ sentence }) => sentence)).size).toBe(1);
  const times = refusals.map(({ took }) => took);
  // One hashing takes tens of milliseconds: an answer without one would be far below the others.
  expect(Math.min(...times)).toBeGreaterThan(Math.max(...times) / 5);
});

describe("sessions", () => {
  test("a session ends after twelve hours without a question, and at the latest after two weeks", async () => {
    const { cookies } = await come("isolde.fairweather", RIGHT, { address: "192.0.2.20" });
    const token = tokenIn(cookies);
    const from = Date.now();
    const later = (hours: number) => vi.useFakeTimers({ toFake: ["Date"], now: from + hours * 3_600_000 });
    later(11);
    expect(await viewerOf(token)).not.toBeNull();
    later(22);
    expect(await viewerOf(token)).not.toBeNull();
    for (let hours = 30; hours < 14 * 24; hours += 10) {
      later(hours);
      expect(await viewerOf(token), `after ${hours} hours`).not.toBeNull();
    }
    later(14 * 24 + 1);
    expect(await viewerOf(token)).toBeNull();
    const idle = tokenIn((await come("isolde.fairweather", RIGHT, { address: "192.0.2.21" })).cookies);
    later(14 * 24 + 1 + 12.1);
    expect(await viewerOf(idle)).toBeNull();
  });

  test("on a machine that others use the session ends with the browser, and the browser is not remembered", async () => {
    const { cookies } = await come("jun.abernathy", RIGHT, { shared: "yes" });
    expect(cookieIn(cookies, "session_token")).not.toMatch(/max-age|expires/i);
    expect(cookieIn(cookies, "device")).toBeUndefined();
    const own = await come("jun.abernathy", RIGHT);
    expect(cookieIn(own.cookies, "session_token")).toMatch(/max-age/i);
    for (const cookie of own.cookies) {
      expect(cookie).toMatch(/httponly/i);
      expect(cookie).toMatch(/samesite=lax/i);
      expect(cookie).toMatch(/path=\//i);
    }
  });

  test("all other sessions are ended at one press", async () => {
    const here = await viewer("keziah.rowden");
    const others = [await viewer("keziah.rowden"), await viewer("keziah.rowden")];
    expect(await endOtherSessions(here, here.token)).toBe(2);
    for (const { token } of others) expect(await viewerOf(token)).toBeNull();
    expect(await viewerOf(here.token)).not.toBeNull();
  });

  test("a sign-in from a browser that is new is told by mail, the first of all and a known one are not", async () => {
    const first = await come("leif.okonma", RIGHT);
    expect(await mailsTo("leif.okonma")).toEqual([]);
    await come("leif.okonma", RIGHT, { cookies: [cookieIn(first.cookies, "device") ?? ""] });
    expect(await mailsTo("leif.okonma")).toEqual([]);
    await come("leif.okonma", RIGHT);
    expect(await mailsTo("leif.okonma")).toEqual(["new-device"]);
    await come("leif.okonma", RIGHT, { shared: "yes" });
    expect(await mailsTo("leif.okonma")).toEqual(["new-device", "new-device"]);
    // It is about the account, not about a course: it stands at no bell.
    const leif = await viewer("leif.okonma");
    const { bellOf } = await import("../notices/bell");
    expect((await bellOf(leif)).filter(({ kind }) => kind === "new-device")).toEqual([]);
  });
});

test("what coming in leaves behind is forgotten once it is over, and what holds stays", async () => {
  const { forgetEnded } = await import("./forget-ended");
  const rosalind = await viewer("rosalind.takahashi");
  await come("rosalind.takahashi", RIGHT, { address: "192.0.2.40" });
  await come("rosalind.takahashi", "wrong", { address: "192.0.2.41" }).catch(() => {});
  const count = async () => {
    const [row] = await sql`select
      (select count(*)::int from session where person_id = ${rosalind.id}) as sessions,
      (select count(*)::int from known_device where person_id = ${rosalind.id}) as browsers,
      (select count(*)::int from try_pace where who like '%rosalind%') as tries`;
    return row;
  };
  const before = await count();
  await forgetEnded();
  expect(await count()).toEqual(before);
  vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + 24 * 3_600_000 });
  await forgetEnded();
  expect(await count()).toMatchObject({ browsers: before?.browsers, tries: 0 });
  expect((await count())?.sessions).toBeLessThan(before?.sessions);
  vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + 400 * 24 * 3_600_000 });
  await forgetEnded();
  expect(await count()).toMatchObject({ browsers: 0 });
});

test.each([
  ["lighthouse", "12 characters or more"],
  ["password1234", "tried first"],
  ["qwertyuiop123", "tried first"],
  ["aaaaaaaaaaaaaaaa", "tried first"],
  ["mei-lin strand 1", "name or address"],
  ["AlderQuayStrand7", "name or address"],
])("%s is refused as a password, and changes nothing", async (next, words) => {
  const meiLin = await viewer("mei-lin.strand");
  await expect(changePassword(meiLin, meiLin.token, { current: RIGHT, next })).rejects.toMatchObject({
    status: 422,
    sentence: expect.stringContaining(words),
  });
  await confirmPassword(meiLin, RIGHT);
});

test("a changed password is told by mail, whatever mail was switched off", async () => {
  const nikolai = await viewer("nikolai.pellworth");
  await sql`update person set mail_off = '["returned","shown","moved","extended","answered"]' where id = ${nikolai.id}`;
  await changePassword(nikolai, nikolai.token, { current: RIGHT, next: "meadow lantern frost" });
  expect(await mailsTo("nikolai.pellworth")).toEqual(["sign-in-changed"]);
});

test("the time codes of this test are those of the standard", () => {
  // RFC 6238, appendix B, shortened to six digits.
  expect(timeCode("GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ", 59_000)).toBe("287082");
  expect(timeCode("GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ", 1_111_111_109_000)).toBe("081804");
});

test("the second factor: set up with a password and a first code, asked for from then on, and taken away again", async () => {
  const name = "ottoline.diaz";
  const { cookies } = await come(name, RIGHT);
  const self = await viewer(name);
  await expect(beginSecondFactor(self, "wrong", headersWith(cookies))).rejects.toMatchObject({ status: 422 });
  const setUp = await beginSecondFactor(self, RIGHT, headersWith(cookies));
  expect(setUp.picture).toContain("<svg");
  expect(setUp.recoveryCodes).toHaveLength(10);
  // Until its first code is given it counts for nothing.
  expect((await come(name, RIGHT)).asksForCode).toBe(false);
  await expect(confirmSecondFactor(self, { code: "000000" }, headersWith(cookies))).rejects.toMatchObject({
    status: 422,
  });
  const confirmed = await confirmSecondFactor(self, { code: timeCode(setUp.secret) }, headersWith(cookies));
  expect(await mailsTo(name)).toContain("sign-in-changed");

  const first = await come(name, RIGHT);
  expect(first.asksForCode).toBe(true);
  expect(tokenIn(first.cookies)).toBeNull();
  const source = { address: "192.0.2.30", headers: headersWith(first.cookies) };
  await expect(signInWithCode({ code: "123456" }, source, false)).rejects.toMatchObject({ status: 401 });
  const token = tokenIn(await signInWithCode({ code: timeCode(setUp.secret) }, source, false));
  expect((await viewerOf(token))?.email).toBe(addressOf(name));
  // The first step was used up by that.
  await expect(signInWithCode({ code: timeCode(setUp.secret) }, source, false)).rejects.toMatchObject({
    status: 410,
  });
  // Without a first step there is no second.
  await expect(
    signInWithCode({ code: timeCode(setUp.secret) }, { ...source, headers: headersWith() }, false),
  ).rejects.toMatchObject({ status: 410 });

  const [recovery = ""] = setUp.recoveryCodes;
  for (const isFirst of [true, false]) {
    const again = { address: "192.0.2.31", headers: headersWith((await come(name, RIGHT)).cookies) };
    const used = signInWithCode({ code: recovery }, again, false);
    if (isFirst) expect(tokenIn(await used)).not.toBeNull();
    else await expect(used).rejects.toMatchObject({ status: 401 });
  }

  const session = headersWith([...confirmed, ...cookies]);
  await expect(endSecondFactor(self, "wrong", session)).rejects.toMatchObject({ status: 422 });
  await endSecondFactor(self, RIGHT, session);
  expect((await come(name, RIGHT)).asksForCode).toBe(false);
});

test("a class that signs in at once from one address is not slowed", async () => {
  const people = await sql`select p.email from person p join enrolment e on e.person_id = p.id
    where e.role = 'student' group by p.email order by p.email`;
  const names = people.map(({ email }) => String(email).split("@")[0] ?? "");
  for (let i = 0; i < 90; i += 1) {
    const name = names[i % 30] ?? "";
    if (["bao.lindqvist", "dmitri.aske", "efua.moorcroft", "nikolai.pellworth"].includes(name)) continue;
    expect((await come(name, RIGHT, { address: "203.0.113.50" })).asksForCode).toBe(false);
  }
}, 60_000);
