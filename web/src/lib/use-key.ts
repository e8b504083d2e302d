import { useEffect } from "react";

/** Runs when a key is pressed outside a field and outside a dialog. */
export function useKey(key: string, act: () => void, on = true): void {
  useEffect(() => {
    if (!on) return;
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest("input, textarea, select, [role=dialog], [role=listbox]");
      if (typing || event.ctrlKey || event.metaKey || event.altKey || event.key !== key) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [key, act, on]);
}
