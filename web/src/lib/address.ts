import { useCallback, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";

/** What is said otherwise in the address; null or nothing takes it away. */
export type AddressChange = Record<string, string | null>;

type Change = (change: AddressChange) => void;

/** An address that the page has been sent to and has not reached yet. */
let ahead: { path: string; said: URLSearchParams } | null = null;

/** What the address says, and how to change a part of it while the rest stays.
 *
 * The page follows its address a moment later. A second change builds on the first all the same, so
 * that nobody who types quickly loses a figure. */
export function useAddress(): [URLSearchParams, Change] {
  const [address] = useSearchParams();
  const navigate = useNavigate();
  const change = useCallback<Change>(
    (next) => {
      const { pathname: path, search } = window.location;
      const before = ahead?.path === path ? ahead.said : new URLSearchParams(search);
      const mine = { path, said: changed(before, next) };
      ahead = mine;
      const reached = () => {
        if (ahead === mine) ahead = null;
      };
      void Promise.resolve(navigate({ search: `?${mine.said}` }, { replace: true })).finally(
        reached,
      );
    },
    [navigate],
  );
  return [address, change];
}

/** An address with something else said in it. */
export function changed(address: URLSearchParams, change: AddressChange): URLSearchParams {
  const said = new URLSearchParams(address);
  for (const [key, value] of Object.entries(change))
    if (value) said.set(key, value);
    else said.delete(key);
  return said;
}

/** Words of the address that are typed: they stand in their field at once. */
export function useTyped(key: string, usual = ""): [string, (words: string) => void] {
  const [address, change] = useAddress();
  const kept = address.get(key) ?? usual;
  const [words, setWords] = useState(kept);
  const [followed, setFollowed] = useState(kept);
  if (kept !== followed) {
    setFollowed(kept);
    if (!ahead) setWords(kept);
  }
  const type = (next: string) => {
    setWords(next);
    setFollowed(next || usual);
    change({ [key]: next });
  };
  return [words, type];
}
