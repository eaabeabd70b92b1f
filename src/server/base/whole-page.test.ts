import { expect, test } from "vitest";
import { wholePage } from "./whole-page";

const html = { "content-type": "text/html; charset=utf-8", "x-own": "kept" };

/** A body that sends its first part, then what it is told to. */
const bodyOf = (then: (controller: ReadableStreamDefaultController<Uint8Array>) => void) =>
  new ReadableStream<Uint8Array>({
    start: (controller) => controller.enqueue(new TextEncoder().encode("<p>first</p>")),
    pull: then,
  });

test("a page is handed on whole, with its status and headers", async () => {
  const body = bodyOf((controller) => {
    controller.enqueue(new TextEncoder().encode("<p>last</p>"));
    controller.close();
  });
  const page = await wholePage(new Response(body, { status: 201, headers: html }));
  expect(page.status).toBe(201);
  expect(page.headers.get("x-own")).toBe("kept");
  expect(await page.text()).toBe("<p>first</p><p>last</p>");
});

test("a page that fails in the middle of being made is a fault before anything is sent", async () => {
  const body = bodyOf((controller) => controller.error(new Error("a part of it failed")));
  await expect(wholePage(new Response(body, { headers: html }))).rejects.toThrow("a part of it failed");
});

test("what is no page is not waited for", async () => {
  const stream = bodyOf(() => {});
  const response = new Response(stream, { headers: { "content-type": "text/csv" } });
  expect(await wholePage(response)).toBe(response);
  await stream.cancel().catch(() => {});
});
