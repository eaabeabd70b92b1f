import { createServer } from "node:http";
import { join } from "node:path";
import compression from "compression";
import sirv from "sirv";
import { ROOT } from "./steps.mjs";

const HEADERS = {
  "x-content-type-options": "nosniff",
  "x-frame-options": "DENY",
  "referrer-policy": "same-origin",
  "permissions-policy": "camera=(), microphone=(), geolocation=()",
  "cross-origin-opener-policy": "same-origin",
};

/**
 * One process that serves the built application on HOST:PORT: prepares the database, then answers. Stops gracefully on
 * SIGTERM and SIGINT, and when the process that started it is gone. Calls back once it listens.
 */
export async function serveInThisProcess(whenReady) {
  const host = process.env.HOST ?? "127.0.0.1";
  const port = Number(process.env.PORT ?? 8110);

  const application = await import(join(ROOT, "dist/server/main.mjs"));
  const { laid } = await application.prepare().catch((error) => {
    console.error(`Shizuka does not start.\n${error.message}`);
    process.exit(1);
  });
  const headers = application.isSecure
    ? { ...HEADERS, "strict-transport-security": "max-age=31536000" }
    : HEADERS;
  const { handler } = await import(join(ROOT, "dist/server/entry.mjs"));

  const files = sirv(join(ROOT, "dist/client"), {
    brotli: true,
    gzip: true,
    etag: true,
    setHeaders(response, path) {
      response.setHeader("x-content-type-options", "nosniff");
      if (path.startsWith("/assets/"))
        response.setHeader("cache-control", "public, max-age=31536000, immutable");
    },
  });
  const compress = compression({ threshold: 1024 });

  // Whoever opens a connection and sends nothing, or a head that never ends, holds no place for long.
  const terms = { headersTimeout: 15_000, requestTimeout: 300_000, connectionsCheckingInterval: 5_000 };
  const server = createServer(terms, (request, response) => {
    for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
    application.inLanguageOf(request, () => {
      if (application.ownLane(request, response)) return;
      files(request, response, async () => {
        const guarded = await application.guard(request, response);
        if (!guarded) return;
        application.inTurn(request, response, () =>
          compress(request, response, () => handler(request, response, undefined, guarded)),
        );
      });
    });
  });
  server.keepAliveTimeout = 65_000;

  server.on("error", (error) => {
    console.error(
      error.code === "EADDRINUSE"
        ? `Port ${port} is taken. Choose another with PORT=...`
        : `The server cannot run: ${error.message}`,
    );
    process.exit(1);
  });

  server.listen(port, host, () => {
    const stopJobs = application.startJobs();
    whenReady({ laid, signIns: application.sampleSignIns() });
    let stopping = false;
    const stop = async () => {
      if (stopping) return;
      stopping = true;
      const closed = new Promise((done) => server.close(done));
      server.closeIdleConnections();
      setTimeout(() => server.closeAllConnections(), 3_000).unref();
      await stopJobs();
      // The streams of the desks have just ended: their connections are idle only now.
      server.closeIdleConnections();
      await closed;
      await application.stop();
      process.exit(0);
    };
    process.on("SIGTERM", stop);
    process.on("SIGINT", stop);
    process.on("disconnect", stop);
  });
}
