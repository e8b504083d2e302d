import { useQueryClient } from "@tanstack/react-query";
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

/** Keeps every live query fresh: the server tells when anything happened in the household. */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource("/api/events");
    const refresh = gathered(() => void client.invalidateQueries({ queryKey: ["live"] }));
    let opened = false;
    source.onmessage = refresh;
    source.onopen = () => {
      if (opened) refresh();
      opened = true;
    };
    return () => {
      refresh.stop();
      source.close();
    };
  }, [client]);
}
