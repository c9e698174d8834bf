import { useSyncExternalStore } from "react";

/** Whether a media query holds, also after the tablet is turned. */
export function useMedia(query: string): boolean {
  return useSyncExternalStore(
    (changed) => {
      const media = matchMedia(query);
      media.addEventListener("change", changed);
      return () => media.removeEventListener("change", changed);
    },
    () => matchMedia(query).matches,
  );
}

/** A phone held upright: lists instead of columns. */
export const usePhone = () => useMedia("(max-width: 699px)");

/** Narrower than a tablet on its side. */
export const useNarrow = () => useMedia("(max-width: 1099px)");
