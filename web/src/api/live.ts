import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

/** Keeps every live query fresh: the server tells when anything happened in the household. */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource("/api/events");
    const refresh = () => void client.invalidateQueries({ queryKey: ["live"] });
    let opened = false;
    source.onmessage = refresh;
    source.onopen = () => {
      if (opened) refresh();
      opened = true;
    };
    return () => source.close();
  }, [client]);
}
