/** What the address of a page says, and a change of it that knows every change before, also one not drawn yet. */
import { useSearchParams, type NavigateOptions } from "react-router";

export type Patch = Record<string, string | null | undefined>;

/** The address with some of it said anew; what is empty leaves it. */
export function changed(address: URLSearchParams, patch: Patch): URLSearchParams {
  const next = new URLSearchParams(address);
  for (const [name, value] of Object.entries(patch))
    if (value) next.set(name, value);
    else next.delete(name);
  return next;
}

export function useAddress(options?: NavigateOptions): [URLSearchParams, (patch: Patch) => void] {
  const [address, setAddress] = useSearchParams();
  const change = (patch: Patch) => {
    // The page is drawn after the next choice when two follow each other closely; the address itself is not late.
    setAddress(changed(new URLSearchParams(window.location.search), patch), options);
  };
  return [address, change];
}
