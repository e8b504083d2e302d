import { type ReactNode, useEffect, useState } from "react";
import { createPortal } from "react-dom";

/** Where a screen may put what has to stay in sight on a phone, over the hob rail. */
export const FOOT = "above-the-hob";

/** What stays in sight at the foot of a phone, however far the page scrolls. */
export function AtFoot({ children }: { children: ReactNode }) {
  const [place, setPlace] = useState<HTMLElement | null>(null);
  useEffect(() => setPlace(document.getElementById(FOOT)), []);
  return place && createPortal(children, place);
}
