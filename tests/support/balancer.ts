import { once } from "node:events";
import type { AddressInfo } from "node:net";
import { createServer, connect as dial, type Server, type Socket } from "node:net";

/**
 * What stands before several processes of one application: gives each connection to the next process that takes it, and
 * cuts it when that process dies, as a balancer does.
 */
export class Balancer {
  readonly #server: Server;
  readonly #sockets = new Set<Socket>();
  #next = 0;

  private constructor(private readonly ports: readonly number[]) {
    this.#server = createServer((socket) => {
      this.#sockets.add(socket);
      socket.on("close", () => this.#sockets.delete(socket));
      socket.on("error", () => socket.destroy());
      this.#next += 1;
      this.#join(socket, this.#next, ports.length);
    });
  }

  static async before(ports: readonly number[]): Promise<Balancer> {
    const balancer = new Balancer(ports);
    balancer.#server.listen(0, "127.0.0.1");
    await once(balancer.#server, "listening");
    return balancer;
  }

  get url(): string {
    return `http://127.0.0.1:${(this.#server.address() as AddressInfo).port}`;
  }

  /** Joins a connection to a process, or to the one after it where that takes none. */
  #join(socket: Socket, which: number, left: number): void {
    if (left === 0) return void socket.destroy();
    const behind = dial(this.ports[which % this.ports.length] ?? 0, "127.0.0.1");
    let isJoined = false;
    behind.on("connect", () => {
      isJoined = true;
      socket.pipe(behind).pipe(socket);
    });
    behind.on("error", () => {
      if (isJoined) socket.destroy();
      else this.#join(socket, which + 1, left - 1);
    });
    behind.on("close", () => {
      if (isJoined) socket.destroy();
    });
    socket.on("close", () => behind.destroy());
  }

  async close(): Promise<void> {
    for (const socket of this.#sockets) socket.destroy();
    this.#server.close();
    await once(this.#server, "close");
  }
}
