import { afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import type { Looked, Progress } from "@/api/table";

type Tables = typeof import("@/api/table");
let tables: Tables;

beforeAll(async () => {
  vi.stubGlobal("window", { location: { origin: "http://here.test" } });
  tables = await import("@/api/table");
});
afterEach(() => vi.unstubAllGlobals());

const LOOKED: Looked = {
  rows: 3, new: 2, there: 1, wrong: [], more_wrong: 0, columns: ["code"], passed_over: [],
  sample: [], written: false,
}; // biome-ignore format: one line is one row
const FILE = new Blob(["code\nSH-0001\n"]);

/** A server that says what it says in pieces as they come over the wire. */
function says(pieces: string[], status = 200) {
  const asked = vi.fn(async (_at: string, _sent: RequestInit) => {
    const bytes = new TextEncoder();
    const body = new ReadableStream({
      start(to) {
        for (const piece of pieces) to.enqueue(bytes.encode(piece));
        to.close();
      },
    });
    return new Response(body, { status });
  });
  vi.stubGlobal("fetch", asked);
  return asked;
}

const line = (said: unknown) => `${JSON.stringify(said)}\n`;
const nothing = () => undefined;
const refusal = (sent: Promise<unknown>) => sent.catch((e: Error) => e.message);

describe("a table that is sent", () => {
  it("tells how far it is, and what was found", async () => {
    const asked = says([
      line({ progress: { doing: "look", done: 1, of: 3 } }),
      line({ progress: { doing: "look", done: 3, of: 3 } }),
      line({ found: LOOKED }),
    ]);
    const far: Progress[] = [];
    expect(await tables.sendTable("jars", FILE, false, (p) => far.push(p))).toEqual(LOOKED);
    expect(far.map((p) => p.done)).toEqual([1, 3]);
    expect(asked.mock.calls[0]?.[0]).toBe("/api/keeping/jars.csv?keep=false");
    expect(asked.mock.calls[0]?.[1]).toMatchObject({ method: "POST", body: FILE });
  });

  it("is read whole, wherever it is cut on its way", async () => {
    const all = line({ progress: { doing: "write", done: 2, of: 2 } }) + line({ found: LOOKED });
    const far: Progress[] = [];
    says([...all]);
    expect(await tables.sendTable("lots", FILE, true, (p) => far.push(p))).toEqual(LOOKED);
    expect(far).toHaveLength(1);
  });

  it("is refused in the server's own words, before it is read or within", async () => {
    const problem = { status: 409, code: "conflict", detail: "Somebody else took one in." };
    says([line({ progress: { doing: "write", done: 1, of: 2 } }), line({ problem })]);
    expect(await refusal(tables.sendTable("jars", FILE, true, nothing))).toBe(problem.detail);
    says([JSON.stringify({ status: 413, code: "large", detail: "At most 64 MB." })], 413);
    expect(await refusal(tables.sendTable("jars", FILE, true, nothing))).toBe("At most 64 MB.");
  });

  it.each([
    ["ends without a word", () => says([line({ progress: { doing: "look", done: 1, of: 2 } })])],
    ["is cut in the middle", () => says(['{"found": {"rows"', "\n"])],
    ["never comes", () => vi.stubGlobal("fetch", () => Promise.reject(new TypeError("away")))],
  ])("is to be sent again where the answer %s", async (_, happens) => {
    happens();
    const words = await refusal(tables.sendTable("jars", FILE, true, nothing));
    expect(words).toMatch(/Nothing of this file was recorded: send it again/);
  });
});
