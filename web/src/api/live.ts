import {
  type InvalidateQueryFilters,
  type QueryClient,
  useQueryClient,
} from "@tanstack/react-query";
import type { Middleware } from "openapi-fetch";
import { useEffect } from "react";

const GATHERED_MS = 150;

/** What comes in a burst is done once, a moment after its first; stop forgets what is to be done. */
export function gathered(act: () => void, afterMs = GATHERED_MS) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const soon = () => {
    timer ??= setTimeout(() => {
      timer = undefined;
      act();
    }, afterMs);
  };
  soon.stop = () => clearTimeout(timer);
  return soon;
}

let answered = 0;
let shown = 0;

/** Notes how far the household was as each change of this page was answered. */
export function hearsItself(): Middleware {
  return {
    onResponse({ response }) {
      answered = Math.max(answered, Number(response.headers.get("Last-Event") ?? 0));
    },
  };
}

/** Everything live is being asked again: what was answered until now is no news any more. */
export function refresh(client: QueryClient, filters: InvalidateQueryFilters = {}): void {
  shown = answered;
  void client.invalidateQueries({ queryKey: ["live"], ...filters });
}

/** Whether something happened that this page has not asked about since. */
export const isNews = (event: number): boolean => event > shown;

/** Keeps every live query fresh: the server tells when anything happened in the household. */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource("/api/events");
    let heard = 0;
    let opened = false;
    const soon = gathered(() => {
      if (isNews(heard)) refresh(client);
    });
    source.onmessage = ({ lastEventId }) => {
      heard = Math.max(heard, Number(lastEventId));
      soon();
    };
    source.onopen = () => {
      if (opened) refresh(client);
      opened = true;
    };
    return () => {
      soon.stop();
      source.close();
    };
  }, [client]);
}
