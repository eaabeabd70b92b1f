import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import compression from "compression";
import sirv from "sirv";
import { disconnect } from "../data/database";
import { config } from "../server/base/config";
import { inLanguageOf } from "../server/base/language";
import { inTurn } from "../server/base/turns";
import { guard } from "../server/edge/guard";
import { ownLane, type Prepared, prepare, startJobs } from "./application";

const HEADERS = {
  "x-content-type-options": "nosniff",
  "x-frame-options": "DENY",
  "referrer-policy": "same-origin",
  "permissions-policy": "camera=(), microphone=(), geolocation=()",
  "cross-origin-opener-policy": "same-origin",
};

/** Whoever opens a connection and sends nothing, or a head that never ends, holds no place for long; in milliseconds. */
const PATIENCE = { headersTimeout: 15_000, requestTimeout: 300_000, connectionsCheckingInterval: 5_000 };
/** Connections that are still in use so long after the stop was asked for are ended, in milliseconds. */
const LAST_WORDS = 3_000;

/** Where the build put the pages and the files, from the project's folder, in which the server runs. */
const BUILT = join(process.cwd(), "dist");

/** The pages, as the framework's build made them. */
type Handler = (
  request: IncomingMessage,
  response: ServerResponse,
  next: undefined,
  locals: unknown,
) => Promise<void>;

/** Says why the server ends, on the terminal of whoever started it. */
function end(message: string): never {
  console.error(message);
  process.exit(1);
}

/**
 * One process that serves the built application on HOST:PORT: prepares the database, then answers. Stops gracefully on
 * SIGTERM and SIGINT, and when the process that started it is gone. Calls back once it listens.
 */
export async function serveInThisProcess(whenReady: (prepared: Prepared) => void): Promise<void> {
  const host = process.env.HOST ?? "127.0.0.1";
  const port = Number(process.env.PORT ?? 8110);
  const prepared = await prepare().catch((error: Error) => end(`Shizuka does not start.\n${error.message}`));
  const headers = Object.entries(
    config.isSecure ? { ...HEADERS, "strict-transport-security": "max-age=31536000" } : HEADERS,
  );
  const pages = pathToFileURL(join(BUILT, "server/entry.mjs")).href;
  const { handler } = (await import(/* @vite-ignore */ pages)) as { handler: Handler };

  const files = sirv(join(BUILT, "client"), {
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

  const server = createServer(PATIENCE, (request, response) => {
    for (const [name, value] of headers) response.setHeader(name, value);
    inLanguageOf(request, () => {
      if (ownLane(request, response)) return;
      files(request, response, async () => {
        const guarded = await guard(request, response);
        if (!guarded) return;
        inTurn(request, response, () =>
          compress(request as never, response as never, () => handler(request, response, undefined, guarded)),
        );
      });
    });
  });
  server.keepAliveTimeout = 65_000;
  server.on("error", (error: NodeJS.ErrnoException) =>
    end(
      error.code === "EADDRINUSE"
        ? `Port ${port} is taken. Choose another with PORT=...`
        : `The server cannot run: ${error.message}`,
    ),
  );

  server.listen(port, host, () => {
    const stopJobs = startJobs();
    whenReady(prepared);
    let stopping = false;
    const stop = async () => {
      if (stopping) return;
      stopping = true;
      const closed = new Promise((done) => server.close(done));
      server.closeIdleConnections();
      setTimeout(() => server.closeAllConnections(), LAST_WORDS).unref();
      await stopJobs();
      // The streams of the desks have just ended: their connections are idle only now.
      server.closeIdleConnections();
      await closed;
      await disconnect();
      process.exit(0);
    };
    process.on("SIGTERM", stop);
    process.on("SIGINT", stop);
    process.on("disconnect", stop);
  });
}
