import { writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { CHROMIUM_ARGS, ensureChromium } from "./lib/browser.mjs";
import { ensurePackages, main, ROOT, say } from "./lib/steps.mjs";

/**
 * Makes the sound and the film of the demo's quizzes, beside their files: a horn in fog, worked out wave by wave, and a
 * dance on the comb, drawn frame by frame. They are kept in the project; this is how they came about.
 */
const FOLDER = join(ROOT, "src/demo/quizzes");

await main(async () => {
  await ensurePackages();
  writeFileSync(join(FOLDER, "horn.wav"), horn());
  say("horn.wav");
  writeFileSync(join(FOLDER, "dance.webm"), await dance());
  say("dance.webm");
});

/** A prolonged blast of five seconds, a pause, and the same again: 8000 samples a second, eight bits each. */
function horn() {
  const RATE = 8000;
  const BLAST = 5;
  const PAUSE = 2.5;
  const samples = Buffer.alloc(Math.round(RATE * (2 * BLAST + PAUSE + 0.5)), 128);
  for (const start of [0.2, 0.2 + BLAST + PAUSE]) {
    for (let i = 0; i < RATE * BLAST; i += 1) {
      const t = i / RATE;
      const swell = Math.min(1, t / 0.4, (BLAST - t) / 0.6);
      // A low horn with the overtones of its bell, and a little unsteadiness of its air.
      const phase = 2 * Math.PI * 147 * t + 0.4 * Math.sin(2 * Math.PI * 5 * t);
      const wave = [1, 0.6, 0.45, 0.2, 0.12].reduce(
        (sum, part, n) => sum + part * Math.sin((n + 1) * phase),
        0,
      );
      samples[Math.round(start * RATE) + i] = 128 + Math.round((wave / 2.4) * 110 * swell);
    }
  }
  const header = Buffer.alloc(44);
  header.write("RIFF", 0);
  header.writeUInt32LE(36 + samples.length, 4);
  header.write("WAVEfmt ", 8);
  header.writeUInt32LE(16, 16);
  header.writeUInt16LE(1, 20);
  header.writeUInt16LE(1, 22);
  header.writeUInt32LE(RATE, 24);
  header.writeUInt32LE(RATE, 28);
  header.writeUInt16LE(1, 32);
  header.writeUInt16LE(8, 34);
  header.write("data", 36);
  header.writeUInt32LE(samples.length, 40);
  return Buffer.concat([header, samples]);
}

/** A bee that runs a waggle dance on the comb, sixty degrees to the right of up, four times: sixteen seconds without sound. */
async function dance() {
  const { chromium } = await import("@playwright/test");
  const browser = await chromium.launch({ executablePath: ensureChromium(), args: CHROMIUM_ARGS });
  try {
    const page = await browser.newPage();
    // Encoders are there for pages of a trusted place only.
    await page.route("http://localhost/", (route) =>
      route.fulfill({ contentType: "text/html", body: "<p>" }),
    );
    await page.goto("http://localhost/");
    await page.addScriptTag({
      path: join(dirname(fileURLToPath(import.meta.resolve("webm-muxer"))), "webm-muxer.js"),
    });
    return Buffer.from(await page.evaluate(film), "base64");
  } finally {
    await browser.close();
  }
}

/** Runs in the page: draws and encodes; returns the file in base64. */
async function film() {
  const [WIDTH, HEIGHT, RATE, SECONDS] = [480, 360, 20, 16];
  const { Muxer, ArrayBufferTarget } = window.WebMMuxer;
  const target = new ArrayBufferTarget();
  const muxer = new Muxer({
    target,
    video: { codec: "V_VP8", width: WIDTH, height: HEIGHT, frameRate: RATE },
    firstTimestampBehavior: "offset",
  });
  const encoder = new VideoEncoder({
    output: (chunk, meta) => muxer.addVideoChunk(chunk, meta),
    error: (error) => console.error(error),
  });
  encoder.configure({ codec: "vp8", width: WIDTH, height: HEIGHT, bitrate: 140_000, framerate: RATE });
  const canvas = new OffscreenCanvas(WIDTH, HEIGHT);
  const draw = canvas.getContext("2d");
  const comb = () => {
    draw.fillStyle = "#f1d59a";
    draw.fillRect(0, 0, WIDTH, HEIGHT);
    draw.strokeStyle = "#c99a45";
    draw.lineWidth = 2;
    const size = 20;
    for (let row = -1; row < HEIGHT / (size * 1.5) + 1; row += 1) {
      for (let column = -1; column < WIDTH / (size * 1.732) + 1; column += 1) {
        const x = (column + (row % 2 ? 0.5 : 0)) * size * 1.732;
        const y = row * size * 1.5;
        draw.beginPath();
        for (let corner = 0; corner < 6; corner += 1) {
          const angle = Math.PI / 6 + (corner * Math.PI) / 3;
          draw.lineTo(x + size * Math.cos(angle), y + size * Math.sin(angle));
        }
        draw.closePath();
        draw.stroke();
      }
    }
    draw.fillStyle = "#6b4a1c";
    draw.font = "16px sans-serif";
    draw.fillText("up", 14, 26);
    draw.fillRect(22, 32, 3, 34);
    draw.beginPath();
    draw.moveTo(23.5, 28);
    draw.lineTo(17, 40);
    draw.lineTo(30, 40);
    draw.fill();
  };
  const bee = (x, y, heading) => {
    draw.save();
    draw.translate(x, y);
    draw.rotate(heading);
    const oval = (cx, cy, rx, ry, fill, turn = 0) => {
      draw.beginPath();
      draw.ellipse(cx, cy, rx, ry, turn, 0, 2 * Math.PI);
      draw.fillStyle = fill;
      draw.fill();
      draw.strokeStyle = "#222";
      draw.lineWidth = 1.5;
      draw.stroke();
    };
    oval(-14, 0, 22, 12, "#d99a2b");
    draw.fillStyle = "#222";
    for (const stripe of [-26, -16, -6]) draw.fillRect(stripe, -11, 5, 22);
    oval(14, 0, 12, 11, "#8a5a22");
    oval(30, 0, 8, 9, "#3a2a18");
    oval(4, -12, 20, 6, "#dfe9f2cc", -0.5);
    oval(4, 12, 20, 6, "#dfe9f2cc", 0.5);
    draw.restore();
  };
  // The run goes from the lower left to the upper right; the way back is half a circle, to the right and to the left in turn.
  const [LENGTH, RUN, BACK] = [170, 1.8, 2.2];
  const angle = -Math.PI / 6;
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  const [sx, sy] = [WIDTH / 2 - (dx * LENGTH) / 2, HEIGHT / 2 - (dy * LENGTH) / 2];
  for (let frame = 0; frame < RATE * SECONDS; frame += 1) {
    const time = frame / RATE;
    const round = Math.floor(time / (RUN + BACK));
    const within = time - round * (RUN + BACK);
    comb();
    if (within < RUN) {
      const along = (within / RUN) * LENGTH;
      const shake = 7 * Math.sin(2 * Math.PI * 6.3 * time);
      bee(sx + dx * along - dy * shake, sy + dy * along + dx * shake, angle + shake / 45);
    } else {
      const side = round % 2 === 0 ? 1 : -1;
      const turn = ((within - RUN) / BACK) * Math.PI;
      const [cx, cy] = [sx + (dx * LENGTH) / 2, sy + (dy * LENGTH) / 2];
      const radius = LENGTH / 2;
      const at = angle + side * turn;
      bee(cx + radius * Math.cos(at), cy + radius * 0.8 * Math.sin(at), at + (side * Math.PI) / 2);
    }
    const picture = new VideoFrame(canvas, { timestamp: (frame * 1e6) / RATE });
    encoder.encode(picture, { keyFrame: frame % 80 === 0 });
    picture.close();
    if (encoder.encodeQueueSize > 8) await new Promise((done) => setTimeout(done, 5));
  }
  await encoder.flush();
  muxer.finalize();
  const bytes = new Uint8Array(target.buffer);
  let text = "";
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
  return btoa(text);
}
