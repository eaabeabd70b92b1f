/** The same hostile inputs each time, as many as are asked for. */
export function hostility(seed: number) {
  let state = seed;
  const random = () => {
    state = (Math.imul(state ^ (state >>> 15), 2_246_822_519) + 0x9e3779b9) >>> 0;
    return state / 2 ** 32;
  };
  const oneOf = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;

  const deep = (levels: number, inside: unknown = 1): unknown =>
    Array.from({ length: levels }).reduce<unknown>(
      (value) => (random() < 0.5 ? [value] : { a: value }),
      inside,
    );

  const values: readonly (() => unknown)[] = [
    () => null,
    () => true,
    () => 0,
    () => -1,
    () => 1.5,
    () => 1e308,
    () => -1e308,
    () => Number.MAX_SAFE_INTEGER,
    () => 2 ** 53,
    () => 2 ** 63,
    () => 32_768,
    () => 2_147_483_648,
    () => "",
    () => " ",
    () => "NaN",
    () => "1e400",
    () => "\u0000",
    () => "a\u0000b",
    () => "\ud800",
    () => "\udc00x",
    () => "\ufeff\u202e\u200b",
    () => "\u001b[31m",
    () => "é".repeat(500),
    () => "🐝".repeat(2_000),
    () => "x".repeat(oneOf([41, 81, 256, 501, 5_000, 60_000])),
    () => "'; drop table answer; --",
    () => "<script>alert(1)</script>",
    () => "{{7*7}}<%= 7*7 %>",
    () => "../../../etc/passwd",
    () => "00000000-0000-0000-0000-000000000000",
    () => "not-a-uuid",
    () => "2026-13-45T99:99:99Z",
    () => "infinity",
    () => [],
    () => [[]],
    () => ["x".repeat(100)],
    () => Array.from({ length: 1_000 }, (_, i) => i),
    () => ({}),
    () => JSON.parse('{"__proto__":{"admin":true}}'),
    () => ({ constructor: { prototype: { x: 1 } } }),
    () => ({ toString: 1, valueOf: null, length: -1 }),
    () => deep(60),
    () => deep(500),
  ];

  /** A body with something in it replaced, left out or added, wherever it lies. */
  function spoilt(value: unknown): unknown {
    if (typeof value !== "object" || value === null || random() < 0.15) return oneOf(values)();
    const copy = (Array.isArray(value) ? [...value] : { ...value }) as Record<string, unknown>;
    const names = Object.keys(copy);
    const name = names.length > 0 ? oneOf(names) : "x";
    const way = random();
    if (way < 0.1) delete copy[name];
    else if (way < 0.2) copy[oneOf(["x", "id", "personId", "__proto__", "seed", "\u0000"])] = oneOf(values)();
    else copy[name] = spoilt(copy[name]);
    return copy;
  }

  /** The text of a body: most often JSON of a spoilt one, now and then what is not JSON at all. */
  function body(valid: unknown): string | Buffer {
    const way = random();
    if (way < 0.04) return "";
    if (way < 0.08) return JSON.stringify(valid).slice(0, Math.floor(random() * 40));
    if (way < 0.11) return Buffer.from(JSON.stringify(valid), "utf16le");
    if (way < 0.14) return Buffer.from(Array.from({ length: 200 }, () => Math.floor(random() * 256)));
    if (way < 0.17) return `${"[".repeat(20_000)}`;
    if (way < 0.2) return `\ufeff${JSON.stringify(valid)}`;
    return JSON.stringify(spoilt(valid));
  }

  const headers = (): Record<string, string> =>
    oneOf<Record<string, string>>([
      {},
      {},
      {},
      {},
      { "content-type": "text/plain" },
      { "content-type": "application/x-www-form-urlencoded" },
      { "content-type": "multipart/form-data; boundary=----x" },
      { "content-type": "application/json; charset=utf-16" },
      { "content-encoding": "gzip" },
      { "accept-language": "x".repeat(2_000) },
      { "if-none-match": "*" },
      { range: "bytes=5-2" },
    ]);

  return { random, oneOf, value: () => oneOf(values)(), body, headers };
}
