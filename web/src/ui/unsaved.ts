import { createContext, useContext, useEffect } from "react";

/** Forms of the sheet around them that hold something not saved; null outside of a sheet. */
export const UnsavedContext = createContext<Set<object> | null>(null);

/** Tells the sheet around a form whether it holds something not saved. */
export function useUnsaved(dirty: boolean) {
  const forms = useContext(UnsavedContext);
  useEffect(() => {
    if (!forms || !dirty) return;
    const own = {};
    forms.add(own);
    return () => {
      forms.delete(own);
    };
  }, [forms, dirty]);
}
