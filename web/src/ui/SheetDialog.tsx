import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, Suspense } from "react";
import { Button } from "./Button";
import { Loading } from "./Wait";

export interface SheetProps {
  title: string;
  note?: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
}

const FIELD = "input:not([type=hidden]):not([type=file]):not(:disabled), select, textarea";
const PATIENCE_MS = 1000;

/**
 * Puts the focus on the first field once it is there, as a form may still be loading; on a phone, where that would bring
 * up the keyboard, and where there is no field, it stays on the sheet itself. Never on Close: Enter would shut it.
 */
function begin(sheet: HTMLElement, since = performance.now()) {
  if (!sheet.contains(document.activeElement)) sheet.focus();
  if (matchMedia("(pointer: coarse)").matches || document.activeElement !== sheet) return;
  const field = sheet.querySelector<HTMLElement>(FIELD);
  if (field) field.focus();
  else if (performance.now() - since < PATIENCE_MS) requestAnimationFrame(() => begin(sheet, since));
}

export default function SheetDialog(p: SheetProps) {
  return (
    <Dialog.Root open={p.open} onOpenChange={(open) => !open && p.onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          onOpenAutoFocus={(e) => {
            e.preventDefault();
            begin(e.currentTarget as HTMLElement);
          }}
          className="fixed inset-0 z-50 overflow-y-auto bg-paper p-4 sm:inset-y-6 sm:right-auto sm:left-1/2 sm:w-[44rem] sm:max-w-[94vw] sm:-translate-x-1/2 sm:rounded-xl sm:border sm:border-edge sm:p-6"
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
          <Suspense fallback={<Loading />}>{p.children}</Suspense>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
