import { useEffect } from "react";

/** Names the page in the browser's tab and to a screen reader: what is narrowest first. */
export function useTitle(...parts: string[]) {
  const title = [...parts.filter(Boolean), "Vessel"].join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}
