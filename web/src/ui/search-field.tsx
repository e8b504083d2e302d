import type { Ref } from "react";
import { useAddress, useTyped } from "@/lib/address";

type Props = { label: string; placeholder: string; keys?: string; box?: Ref<HTMLInputElement> };

/** Words to find something by; they live in the address as `find`. */
export function SearchField({ label, placeholder, keys, box }: Props) {
  const [words, setWords] = useTyped("find");
  return (
    <label className="flex min-h-12 items-center border-2 border-line bg-paper focus-within:outline-3 focus-within:outline-brass">
      <span className="sr-only">{label}</span>
      <input
        ref={box}
        type="search"
        value={words}
        placeholder={placeholder}
        onChange={(e) => setWords(e.target.value)}
        className="w-full bg-transparent px-3 text-lg placeholder:text-slate focus:outline-none"
      />
      {keys && <kbd className="hidden pr-3 text-slate wide:block">{keys}</kbd>}
    </label>
  );
}

/** The words to find by. */
export function useFind(): string {
  const [address] = useAddress();
  return address.get("find") ?? "";
}
