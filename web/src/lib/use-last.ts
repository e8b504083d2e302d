import { useRef } from "react";

/** The newest value that there was: what is shown while the next one is on its way. */
export function useLast<T>(value: T | undefined): T | undefined {
  const last = useRef(value);
  if (value !== undefined) last.current = value;
  return last.current;
}
