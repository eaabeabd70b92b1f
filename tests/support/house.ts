import { type APIRequestContext, type Browser, test as base, expect, type Page } from "@playwright/test";
import postgres from "postgres";
import { createDatabase, type RunningServer, startServer } from "../../tools/lib/server.mjs";
import { Balancer } from "./balancer";

const TEMPLATE = "demo_template";
const PASSWORD = "quiet harbour";

const cluster = {
  url(database: string): string {
    const url = process.env.TEST_CLUSTER;
    if (!url) throw new Error("TEST_CLUSTER is not set: run these tests with  npm test e2e");
    return url + database;
  },
};

let made = 0;

/** An application with a demo college of its own. */
export class House {
  private constructor(
    readonly databaseUrl: string,
    private server: RunningServer,
    readonly sql: postgres.Sql,
    private readonly others: { readonly second: RunningServer; readonly balancer: Balancer } | null = null,
  ) {}

  static async open(env: Record<string, string> = {}): Promise<House> {
    made += 1;
    const name = `house_${process.pid}_${made}`;
    const url = await createDatabase(cluster, name, TEMPLATE);
    return House.#on(url, env);
  }

  /** On a database of a cluster of one's own, which may be stopped: it has a college of its own. */
  static async openOn(own: { url(database: string): string }): Promise<House> {
    return House.#on(await createDatabase(own, "own"), {});
  }

  /** Two processes over one database, behind a balancer; `kill` kills one of them. */
  static async openTwo(): Promise<House> {
    const first = await House.open();
    const second = await startServer(first.databaseUrl);
    const balancer = await Balancer.before([first.server.port, second.port]);
    return new House(first.databaseUrl, first.server, first.sql, { second, balancer });
  }

  static async #on(url: string, env: Record<string, string>): Promise<House> {
    return new House(url, await startServer(url, env), postgres(url, { max: 2, onnotice: () => {} }));
  }

  /** The process that was started. */
  get pid(): number {
    return this.server.pid;
  }

  get url(): string {
    return this.others?.balancer.url ?? this.server.url;
  }

  /** Kills the application as a crash would, with no chance to tidy up. */
  async kill(): Promise<void> {
    await this.server.kill();
  }

  /** Starts it again on the same port, perhaps with other settings. */
  async restart(env: Record<string, string> = {}): Promise<void> {
    this.server = await startServer(this.databaseUrl, { PORT: String(this.server.port), ...env });
  }

  /** Makes the application's database refuse everything, as a stopped one does. */
  async cutDatabase(): Promise<void> {
    await this.#letIn(false);
  }

  async restoreDatabase(): Promise<void> {
    await this.#letIn(true);
  }

  async #letIn(allowed: boolean): Promise<void> {
    const admin = postgres(cluster.url("postgres"), { max: 1, onnotice: () => {} });
    const name = new URL(this.databaseUrl).pathname.slice(1);
    await admin.unsafe(`alter database "${name}" allow_connections ${allowed}`);
    if (!allowed) await admin`select pg_terminate_backend(pid) from pg_stat_activity where datname = ${name}`;
    await admin.end();
  }

  async close(): Promise<void> {
    await this.sql.end();
    await this.others?.balancer.close();
    await Promise.all([this.server.stop(), this.others?.second.stop()]);
  }

  /** The id of a quiz by its title. */
  async quiz(title: string): Promise<string> {
    const [row] = await this.sql<{ id: string }[]>`select id from quiz where title = ${title}`;
    if (!row) throw new Error(`There is no quiz ${title}.`);
    return row.id;
  }

  /** Closes a quiz some seconds from now: an attempt that is started then ends with it. */
  async closeIn(title: string, seconds: number): Promise<void> {
    await this
      .sql`update quiz set due = null, closes = now() + make_interval(secs => ${seconds}) where title = ${title}`;
  }

  /** What the server holds of an attempt: the answer in a slot. */
  async answer(attempt: string, slot: number) {
    const [row] = await this.sql`select answer from answer where attempt_id = ${attempt} and slot = ${slot}`;
    return row?.answer ?? null;
  }

  /** A signed-in way to call endpoints, as a page of ours would. */
  async caller(request: APIRequestContext, name: string | null): Promise<Caller> {
    if (name === null) return new Caller(request, this.url, "");
    const answer = await this.#signIn(request, name);
    expect(answer.status()).toBe(303);
    const cookie = answer
      .headersArray()
      .filter(({ name: header }) => header.toLowerCase() === "set-cookie")
      .map(({ value }) => value.split(";")[0])
      .join("; ");
    return new Caller(request, this.url, cookie);
  }

  /** A browser page of its own, signed in. */
  async page(browser: Browser, name: string): Promise<Page> {
    const page = await (await browser.newContext()).newPage();
    await this.signIn(page, name);
    return page;
  }

  async signIn(page: Page, name: string): Promise<void> {
    const answer = await this.#signIn(page.context().request, name);
    expect(answer.status()).toBe(303);
    await page.goto(`${this.url}/today`);
  }

  /** What the form of the sign-in page sends; the form itself is tested on its own. */
  #signIn(request: APIRequestContext, name: string) {
    return request.post(`${this.url}/sign-in`, {
      form: { email: `${name}@alderquay.example`, password: PASSWORD },
      headers: { origin: this.url },
      maxRedirects: 0,
    });
  }
}

export interface Answered {
  readonly status: number;
  readonly type: string;
  readonly text: string;
  readonly headers: Record<string, string>;
  // biome-ignore lint/suspicious/noExplicitAny: tests read what came, whatever it is
  readonly json: any;
}

export class Caller {
  constructor(
    private readonly request: APIRequestContext,
    private readonly url: string,
    readonly cookie: string,
  ) {}

  async #answer(response: Awaited<ReturnType<APIRequestContext["get"]>>): Promise<Answered> {
    const text = await response.text();
    const type = response.headers()["content-type"] ?? "";
    return {
      status: response.status(),
      type,
      text,
      headers: response.headers(),
      json: type.includes("json") ? JSON.parse(text) : null,
    };
  }

  async get(path: string): Promise<Answered> {
    return this.#answer(
      await this.request.get(this.url + path, { headers: { cookie: this.cookie }, maxRedirects: 0 }),
    );
  }

  /** Sends bytes, as a desk sends a piece of a file. */
  async put(path: string, data: string | Buffer): Promise<Answered> {
    const response = await this.request.put(this.url + path, {
      data: Buffer.from(data),
      headers: { cookie: this.cookie, origin: this.url, "content-type": "application/octet-stream" },
      maxRedirects: 0,
    });
    return this.#answer(response);
  }

  async post(path: string, data: unknown, headers: Record<string, string> = {}): Promise<Answered> {
    const response = await this.request.post(this.url + path, {
      data: typeof data === "string" ? data : JSON.stringify(data),
      headers: { cookie: this.cookie, origin: this.url, "content-type": "application/json", ...headers },
      maxRedirects: 0,
    });
    return this.#answer(response);
  }
}

/** Starts an attempt from its brief, as a student does; ends at the desk, ready. */
export async function startFromBrief(page: Page, house: House, title: string): Promise<void> {
  await page.goto(`${house.url}/quizzes/${await house.quiz(title)}`);
  await page.getByRole("button", { name: "Start now" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Start the attempt" }).click();
  await atDesk(page);
}

/** Waits until the desk is there and listens. */
export async function atDesk(page: Page): Promise<void> {
  await page.waitForURL(/\/attempts\/[^/]+$/);
  await page.locator("[data-ready=true]").waitFor();
}

/** Hands in from the desk, by looking over; ends at the slip. */
export async function handIn(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Look over and hand in" }).click();
  await page.getByRole("button", { name: "Hand in" }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Hand in" }).click();
  await page.waitForURL("**/slip");
}

export const attemptIn = (page: Page): string => new URL(page.url()).pathname.split("/")[2] ?? "";

/** A question of the row; each screen has one row that is seen. */
export const entryOf = (page: Page, slot: number) =>
  page
    .getByRole("navigation", { name: "Questions", exact: true })
    .getByRole("button", { name: new RegExp(`^Question ${slot}(,|$)`) });

/** Goes to a question by the row. */
export const goTo = (page: Page, slot: number) => entryOf(page, slot).click();

/** Waits until the desk says that all is saved; then no question of the row may say otherwise. */
export async function allSaved(page: Page): Promise<void> {
  // What it says instead stands in the failure.
  await expect
    .poll(() => page.getByRole("status").allTextContents())
    .toContainEqual(expect.stringContaining("All saved"));
  expect(await page.getByRole("button", { name: /not on the server yet/ }).count()).toBe(0);
}

/** Tests share one application in each worker, unless they open their own; what a test opened ends with it. */
export const test = base.extend<{ closing: undefined }, { house: House }>({
  closing: [
    async ({ browser }, use) => {
      await use(undefined);
      // A desk left open goes on asking and listening beside the tests that follow.
      await Promise.all(browser.contexts().map((context) => context.close()));
    },
    { auto: true },
  ],
  house: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright wants the pattern
    async ({}, use) => {
      const house = await House.open();
      await use(house);
      await house.close();
    },
    { scope: "worker", timeout: 60_000 },
  ],
});

export { expect };
