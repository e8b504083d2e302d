import createClient from "openapi-fetch";
import { describe, expect, it } from "vitest";
import { onceEach } from "@/api/retry";

type Answer = () => Response;

/** A client whose server answers as told; the keys that it was sent. */
function told(answers: Answer[]) {
  const keys: (string | null)[] = [];
  const client = createClient<Record<string, never>>({
    baseUrl: "http://here.test",
    fetch: async (request: Request) => {
      keys.push(request.headers.get("Idempotency-Key"));
      const answer = answers.shift();
      if (!answer) throw new TypeError("nobody answers");
      return answer();
    },
  });
  client.use(onceEach());
  const post = (body: unknown) =>
    client.POST("/lots" as never, { body } as never).catch(() => undefined);
  return { keys, post, get: () => client.GET("/lots" as never, {} as never) };
}

const good: Answer = () => Response.json({ id: 1 }, { status: 201 });
const away: Answer = () => Response.json({ detail: "away" }, { status: 503 });
const refused: Answer = () => Response.json({ detail: "no" }, { status: 422 });

describe("the key by which a change is known", () => {
  it("stays while nobody has answered", async () => {
    const { keys, post } = told([away, () => Promise.reject() as never, good]);
    for (let n = 0; n < 3; n += 1) await post({ line: "3 kg damsons" });
    expect(keys[0]).toBeTruthy();
    expect(new Set(keys).size).toBe(1);
  });

  it.each([
    ["a good answer", good],
    ["a refusal", refused],
  ])("is another one after %s", async (_, answer) => {
    const { keys, post } = told([answer, good]);
    await post({ line: "3 kg damsons" });
    await post({ line: "3 kg damsons" });
    expect(new Set(keys).size).toBe(2);
  });

  it("follows what is sent", async () => {
    const { keys, post } = told([away, away, good]);
    await post({ line: "3 kg damsons" });
    await post({ line: "4 kg damsons" });
    await post({ line: "3 kg damsons" });
    expect(keys[1]).not.toBe(keys[0]);
    expect(keys[2]).toBe(keys[0]);
  });

  it("is not needed to look", async () => {
    const { keys, get } = told([good]);
    await get();
    expect(keys).toEqual([null]);
  });
});
