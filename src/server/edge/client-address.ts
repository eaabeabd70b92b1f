import type { IncomingMessage } from "node:http";
import proxyAddr from "proxy-addr";

type Trust = (address: string, distance: number) => boolean;

/**
 * Which proxies may say for whom they ask, from a setting: how many stand before the application ("1"), or their addresses
 * and networks ("10.0.0.0/8, 192.0.2.7"). Nothing set: none. @throws Error when it is neither.
 */
export function trustedProxies(setting: string): Trust {
  const wanted = setting.trim();
  if (wanted === "") return () => false;
  if (/^\d{1,2}$/.test(wanted)) return (_, distance) => distance < Number(wanted);
  try {
    return proxyAddr.compile(wanted.split(",").map((each) => each.trim()));
  } catch {
    throw new Error(
      "SHIZUKA_TRUST_PROXY must be the number of proxies before Shizuka, or their addresses and networks with commas between.",
    );
  }
}

/** The network address that a request comes from: the nearest one that is not a trusted proxy. */
export const clientAddress = (request: IncomingMessage, trust: Trust): string =>
  proxyAddr(request, trust) || "unknown";
