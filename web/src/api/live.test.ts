import { QueryClient } from "@tanstack/react-query";
import createClient from "openapi-fetch";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { gathered, hearsItself, isNews, refresh } from "@/api/live";

describe("a burst of news", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it("is asked for once, a moment after the first", () => {
    const ask = vi.fn();
    const heard = gathered(ask, 150);
    for (let n = 0; n < 20; n += 1) heard();
    expect(ask).not.toHaveBeenCalled();
    vi.advanceTimersByTime(150);
    expect(ask).toHaveBeenCalledTimes(1);
  });

  it("never waits longer because more comes", () => {
    const ask = vi.fn();
    const heard = gathered(ask, 150);
    for (let n = 0; n < 30; n += 1) {
      heard();
      vi.advanceTimersByTime(50);
    }
    expect(ask.mock.calls.length).toBeGreaterThan(6);
  });

  it("asks nothing once nobody looks on", () => {
    const ask = vi.fn();
    const heard = gathered(ask, 150);
    heard();
    heard.stop();
    vi.advanceTimersByTime(1000);
    expect(ask).not.toHaveBeenCalled();
  });
});

describe("what a page did itself", () => {
  /** A change that is answered, the household's newest event being this one. */
  async function change(newest?: number) {
    const headers = newest === undefined ? {} : { "Last-Event": String(newest) };
    const client = createClient<Record<string, never>>({
      baseUrl: "http://here.test",
      fetch: async () => Response.json({}, { headers }),
    });
    client.use(hearsItself());
    await client.POST("/lots" as never, { body: {} } as never);
  }

  it("is news until everything live was asked again, and never after", async () => {
    const client = new QueryClient();
    await change(41);
    expect(isNews(41)).toBe(true);
    refresh(client);
    expect(isNews(40)).toBe(false);
    expect(isNews(41)).toBe(false);
    expect(isNews(42)).toBe(true);
  });

  it("hides nothing of what somebody else did meanwhile", async () => {
    const client = new QueryClient();
    await change(50);
    refresh(client);
    await change();
    refresh(client);
    expect(isNews(51)).toBe(true);
  });

  it("has every live query asked again, but for what is known already", async () => {
    const client = new QueryClient();
    const asked: string[] = [];
    for (const key of ["hob", "batch"]) client.setQueryData(["live", key], key);
    client.setQueryData(["kitchen"], "kitchen");
    refresh(client, { predicate: (q) => q.queryKey[1] !== "batch" });
    for (const query of client.getQueryCache().getAll())
      if (query.state.isInvalidated) asked.push(String(query.queryKey.at(-1)));
    expect(asked).toEqual(["hob"]);
  });
});
