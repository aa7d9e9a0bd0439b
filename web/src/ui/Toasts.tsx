import { Toast } from "radix-ui";
import { createContext, type ReactNode, useCallback, useContext, useState } from "react";
import { buttonClass } from "./Button";

interface Note {
  id: number;
  text: string;
  undo?: () => void;
}

const Context = createContext<(text: string, undo?: () => void) => void>(() => undefined);
export const useToast = () => useContext(Context);

export function Toasts({ children }: { children: ReactNode }) {
  const [notes, setNotes] = useState<Note[]>([]);
  const show = useCallback(
    (text: string, undo?: () => void) => setNotes((n) => [...n.slice(-2), { id: Date.now(), text, undo }]),
    [],
  );
  const drop = (id: number) => setNotes((n) => n.filter((x) => x.id !== id));
  return (
    <Context.Provider value={show}>
      <Toast.Provider duration={8000} swipeDirection="down">
        {children}
        {notes.map((n) => (
          <Toast.Root
            key={n.id}
            onOpenChange={(open) => !open && drop(n.id)}
            className="flex items-center gap-4 rounded-lg border-2 border-ink bg-sheet p-3 shadow-lg"
          >
            <Toast.Description className="font-semibold">{n.text}</Toast.Description>
            {n.undo ? (
              <Toast.Action altText="Undo" className={buttonClass("main")} onClick={n.undo}>
                Undo
              </Toast.Action>
            ) : null}
          </Toast.Root>
        ))}
        <Toast.Viewport className="no-print fixed inset-x-4 bottom-20 z-50 mx-auto flex max-w-md flex-col gap-2 lg:bottom-6" />
      </Toast.Provider>
    </Context.Provider>
  );
}
