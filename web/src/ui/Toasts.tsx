import { createContext, type ReactNode, useCallback, useContext, useState } from "react";
import { afterFirstPaint } from "./afterFirstPaint";
import { fetched, Nothing } from "./fetched";
import type { Note } from "./note";

const ToastList = fetched(() => import("./ToastList"), Nothing);
afterFirstPaint(ToastList.ahead);

const Context = createContext<(text: string, undo?: () => void) => void>(() => undefined);
export const useToast = () => useContext(Context);

export function Toasts({ children }: { children: ReactNode }) {
  const [notes, setNotes] = useState<Note[]>([]);
  const [used, setUsed] = useState(false);
  const show = useCallback((text: string, undo?: () => void) => {
    setUsed(true);
    setNotes((n) => [...n.slice(-2), { id: Date.now(), text, undo }]);
  }, []);
  const drop = useCallback((id: number) => setNotes((n) => n.filter((x) => x.id !== id)), []);
  return (
    <Context.Provider value={show}>
      {children}
      {used ? <ToastList notes={notes} onDrop={drop} /> : null}
    </Context.Provider>
  );
}
