import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { gathered } from "@/api/live";

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
