import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { Button } from "./Button";
import { UnsavedContext } from "./unsaved";

export interface SheetProps {
  title: string;
  note?: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
}

const FIELD = "input:not([type=hidden]):not([type=file]):not(:disabled), select, textarea";

/**
 * Puts the focus on the first field as soon as it is there, as a form may still be loading; on a phone, where that would
 * bring up the keyboard, and where there is no field, it stays on the sheet itself. Never on Close: Enter would shut it.
 */
function begin(sheet: HTMLElement) {
  if (!sheet.contains(document.activeElement)) sheet.focus();
  if (matchMedia("(pointer: coarse)").matches || enter(sheet)) return;
  const loading = new MutationObserver(() => enter(sheet) && loading.disconnect());
  loading.observe(sheet, { childList: true, subtree: true });
}

/** Goes to the first field, and says whether there is nothing left to do: the field is there, or somebody went elsewhere. */
function enter(sheet: HTMLElement) {
  if (document.activeElement !== sheet) return true;
  const field = sheet.querySelector<HTMLElement>(FIELD);
  field?.focus();
  return field !== null;
}

/** Closes the sheets that are open, the one on top last; each says whether it did. */
const stack: (() => boolean)[] = [];
/** How often the page itself goes back, without a thumb. */
let own = 0;
let listening = false;

/** One entry of the history stands for all open sheets: Back takes it, and the sheet on top closes. */
const mark = () => history.pushState({ ...history.state, sheet: true }, "");

function listen() {
  if (listening) return;
  listening = true;
  addEventListener("popstate", () => {
    if (own > 0) {
      own -= 1;
      return;
    }
    const open = stack.length;
    const closed = stack.at(-1)?.();
    if (open > 1 || closed === false) mark();
  });
}

/** Lets Back on a phone close the sheet and stay on the page. */
function useBack(close: () => boolean) {
  const now = useRef(close);
  now.current = close;
  useEffect(() => {
    listen();
    const shut = () => now.current();
    if (stack.push(shut) === 1) mark();
    return () => {
      stack.splice(stack.indexOf(shut), 1);
      // closed by anything but Back: its entry goes with it, unless the page has moved on
      if (!stack.length && history.state?.sheet) {
        own += 1;
        history.back();
      }
    };
  }, []);
}

export default function SheetDialog(p: SheetProps) {
  const unsaved = useRef(new Set<object>());
  const [asking, setAsking] = useState(false);
  const close = () => {
    if (unsaved.current.size && !asking) {
      setAsking(true);
      return false;
    }
    p.onClose();
    return true;
  };
  useBack(close);
  return (
    <Dialog.Root open={p.open} onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          onOpenAutoFocus={(e) => {
            e.preventDefault();
            begin(e.currentTarget as HTMLElement);
          }}
          className="fixed inset-0 z-50 overflow-y-auto bg-paper p-4 sm:top-6 sm:bottom-auto sm:max-h-[calc(100dvh-3rem)] sm:right-auto sm:left-1/2 sm:w-[44rem] sm:max-w-[94vw] sm:-translate-x-1/2 sm:rounded-xl sm:border sm:border-edge sm:p-6"
        >
          <div className="mb-4 flex items-start justify-between gap-4">
            <div>
              <Dialog.Title className="text-xl font-bold">{p.title}</Dialog.Title>
              <Dialog.Description className={p.note ? "text-quiet" : "sr-only"}>
                {p.note ?? p.title}
              </Dialog.Description>
            </div>
            <Dialog.Close asChild>
              <Button aria-label="Close" className="px-2.5">
                <X aria-hidden />
              </Button>
            </Dialog.Close>
          </div>
          {asking ? (
            <div
              role="alert"
              className="sticky top-0 z-10 mb-3 flex flex-wrap items-center gap-2 rounded-md border-2 border-care bg-care-bg p-3"
            >
              <p className="w-full font-semibold">Unsaved changes.</p>
              <Button look="main" autoFocus onClick={() => setAsking(false)}>
                Cancel
              </Button>
              <Button onClick={p.onClose}>Close without saving</Button>
            </div>
          ) : null}
          <UnsavedContext value={unsaved.current}>{p.children}</UnsavedContext>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
