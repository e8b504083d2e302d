import { beforeAll, describe, expect, it, vi } from "vitest";

type Client = typeof import("@/api/client");
let client: Client;

beforeAll(async () => {
  vi.stubGlobal("window", { location: { origin: "http://here.test" } });
  client = await import("@/api/client");
});

const answer = (status: number, said: { data?: unknown; error?: unknown }) =>
  Promise.resolve({ ...said, response: new Response(null, { status }) });
const refusal = async (asked: Promise<unknown>) =>
  (await asked.catch((error: unknown) => error)) as InstanceType<Client["Refused"]>;

describe("an answer", () => {
  it("is its body where it is a good one", async () => {
    expect(await client.body(answer(200, { data: { id: 3 } }))).toEqual({ id: 3 });
  });

  it("is a refusal in the server's own words, each at its field", async () => {
    const error = {
      status: 422,
      code: "invalid",
      detail: "Some entries need another look.",
      errors: [{ pointer: "/altitude_m", detail: "This can be at most 9000." }],
    };
    const refused = await refusal(client.body(answer(422, { error })));
    expect(refused).toBeInstanceOf(client.Refused);
    expect(refused.message).toBe("Some entries need another look.");
    expect(refused.at("/altitude_m")).toBe("This can be at most 9000.");
    expect(refused.at("/name")).toBeUndefined();
  });

  it.each([502, 503, 507])("without words (%s) says that nothing is lost", async (status) => {
    const refused = await refusal(client.body(answer(status, { error: undefined })));
    expect(refused.problem.status).toBe(status);
    expect(refused.message).toMatch(/What was recorded is safe/);
  });

  it("that never came is no status at all", async () => {
    const refused = await refusal(client.body(Promise.reject(new TypeError("fetch failed"))));
    expect(refused.problem).toMatchObject({ status: 0, code: "away" });
  });
});

describe("what is wrong with a field", () => {
  const errors = [
    { pointer: "/inputs/12/grams", detail: "More than there is." },
    { pointer: "/ends/1/jar_kinds/0", detail: "There is no such jar." },
  ];
  const refused = () => new client.Refused({ status: 422, code: "x", detail: "x", errors });

  it.each([
    ["/inputs/12/grams", "More than there is."],
    ["/inputs/12", "More than there is."],
    ["/inputs/1", undefined],
    ["/inputs/12/gram", undefined],
    ["/ends/1/jar_kinds", "There is no such jar."],
    ["/ends/0/jar_kinds", undefined],
  ])("%s: %s", (pointer, words) => {
    expect(refused().at(pointer)).toBe(words);
  });
});

describe("what is tried again", () => {
  const refused = (status: number) => new client.Refused({ status, code: "x", detail: "x" });

  it.each([
    [0, true],
    [401, false],
    [409, false],
    [422, false],
    [429, false],
    [500, false],
    [502, true],
    [503, true],
  ])("an answer of %s: %s", (status, again) => {
    expect(client.worthRetrying(0, refused(status))).toBe(again);
  });

  it("is not tried for ever", () => {
    expect(client.worthRetrying(7, refused(503))).toBe(true);
    expect(client.worthRetrying(8, refused(503))).toBe(false);
  });

  it("is no mistake of the page", () => {
    expect(client.worthRetrying(0, new Error("undefined is not a function"))).toBe(false);
  });

  it("asks who is signed in once somebody is signed out", async () => {
    const asked = vi.spyOn(client.queryClient, "invalidateQueries");
    const look = (status: number) =>
      client.queryClient
        .fetchQuery({
          queryKey: ["figure", status],
          queryFn: () => Promise.reject(refused(status)),
          retry: false,
        })
        .catch(() => undefined);
    await look(403);
    expect(asked).not.toHaveBeenCalled();
    await look(401);
    expect(asked).toHaveBeenCalledWith({ queryKey: ["session"] });
  });
});
