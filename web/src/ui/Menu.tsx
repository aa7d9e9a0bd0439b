import { EllipsisVertical } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ComponentType, ReactNode } from "react";
import { buttonClass } from "./Button";

/** What is done seldom, behind three dots. */
export function Menu({ label, children }: { label: string; children: ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={`${buttonClass("plain", true)} px-2.5`} aria-label={label}>
        <EllipsisVertical aria-hidden className="size-5" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 min-w-52 rounded-md border border-quiet bg-sheet p-1 shadow-lg"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const ITEM =
  "flex min-h-11 cursor-pointer items-center gap-2 rounded px-3 font-semibold data-[highlighted]:bg-soil";

export function MenuItem(p: {
  icon: ComponentType<{ className?: string; "aria-hidden"?: boolean }>;
  onChoose?: () => void;
  /** A file to fetch instead of something to do. */
  href?: string;
  children: ReactNode;
}) {
  const Icon = p.icon;
  const shown = (
    <>
      <Icon aria-hidden className="size-5" /> {p.children}
    </>
  );
  return p.href ? (
    <DropdownMenu.Item asChild className={ITEM}>
      <a href={p.href} download>
        {shown}
      </a>
    </DropdownMenu.Item>
  ) : (
    <DropdownMenu.Item className={ITEM} onSelect={p.onChoose}>
      {shown}
    </DropdownMenu.Item>
  );
}
