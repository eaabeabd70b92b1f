import { once } from "node:events";
import { connect, type Socket } from "node:net";

/** A connection on which a test writes what no browser would. */
export class RawConnection {
  #text = "";
  isClosed = false;

  private constructor(readonly socket: Socket) {
    socket.on("data", (piece) => {
      this.#text += piece;
    });
    socket.on("close", () => {
      this.isClosed = true;
    });
    socket.on("error", () => {});
  }

  static async to(url: string): Promise<RawConnection> {
    const { hostname, port } = new URL(url);
    const socket = connect(Number(port), hostname);
    await once(socket, "connect");
    return new RawConnection(socket);
  }

  write(lines: readonly string[] | string | Buffer): void {
    this.socket.write(Array.isArray(lines) ? `${lines.join("\r\n")}\r\n\r\n` : (lines as string | Buffer));
  }

  get text(): string {
    return this.#text;
  }

  /** The status of the first answer, once it has come. */
  get status(): number | null {
    const [, status] = /^HTTP\/1\.1 (\d{3})/.exec(this.#text) ?? [];
    return status === undefined ? null : Number(status);
  }

  end(): void {
    this.socket.destroy();
  }
}
