import { Toast } from "radix-ui";
import { buttonClass } from "./Button";
import type { Note } from "./note";

export default function ToastList({ notes, onDrop }: { notes: Note[]; onDrop: (id: number) => void }) {
  return (
    <Toast.Provider duration={8000} swipeDirection="up">
      {notes.map((n) => (
        <Toast.Root
          key={n.id}
          onOpenChange={(open) => !open && onDrop(n.id)}
          className="flex items-center gap-4 rounded-lg border-2 border-ink bg-sheet px-3 py-1 shadow-lg lg:py-3"
        >
          <Toast.Description className="font-semibold">{n.text}</Toast.Description>
          {n.undo ? (
            <Toast.Action altText="Undo" className={buttonClass("main")} onClick={n.undo}>
              Undo
            </Toast.Action>
          ) : null}
        </Toast.Root>
      ))}
      {/* on a phone the newest alone, over the head of the page: buttons lie at the thumb and below the head */}
      <Toast.Viewport className="no-print fixed inset-x-2 top-0.5 z-50 mx-auto flex max-w-md flex-col gap-2 max-lg:[&>li:not(:last-child)]:hidden lg:top-auto lg:bottom-6" />
    </Toast.Provider>
  );
}
